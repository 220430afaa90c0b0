import { countBar } from '../count/countWord.ts';
import { oddShown } from '../count/schools/oddShown.ts';
import { formatMeter, isSameMeter } from '../meter/text.ts';
import type { Bar } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import type { SpokenChoice } from '../run/settings.ts';
import type { DrillClick } from './drill.ts';

/** How a drill is done: on the instruments, or with voice, hands and feet first. */
export const DRILL_WAYS = ['play', 'speak', 'clap', 'step'] as const;
export type DrillWay = (typeof DRILL_WAYS)[number];

interface WayOfDrilling {
  readonly name: string;
  /** Said before the count-off; one of the spoken words that ship with the app. */
  readonly call: string | null;
  readonly click: DrillClick;
  readonly spoken: SpokenChoice;
  readonly does: string;
  /** Shown where people move. */
  readonly caution: string | null;
}

const MOVING =
  'Clear floor, firm shoes, instruments down. Enough room, water, and shade or air. Sit and tap heels if standing is not for you. ' +
  'Touch only with consent; your school’s or ensemble’s own safety rules come first. Stop on pain or numbness.';

/** What is done in each way, and what then sounds. */
export const WAYS: Readonly<Record<DrillWay, WayOfDrilling>> = {
  play: {
    name: 'Play',
    call: null,
    click: 'pulse',
    spoken: 'count-off',
    does: 'On the instruments.',
    caution: null,
  },
  speak: {
    name: 'Speak the count',
    call: 'speak the count',
    click: 'pulse',
    spoken: 'everything',
    does: 'Everyone says the numbers aloud, together with the voice.',
    caution: null,
  },
  clap: {
    name: 'Clap the groups',
    call: 'clap the groups',
    click: 'subdivision',
    spoken: 'count-off',
    does: 'The small notes sound; clap only where a group begins.',
    caution: 'Instruments on their stands. Softly: hands tire before the ear does.',
  },
  step: {
    name: 'Step the pulse and sing',
    call: 'step and sing',
    click: 'pulse',
    spoken: 'count-off',
    does: 'A step on every beat, your own line sung over it.',
    caution: MOVING,
  },
};

/** What is spoken, clapped or stepped over some bars, bar by bar: "1 2 3 4", "1 . . 4 . .", "4 steps". */
export function promptFor(way: DrillWay, bars: readonly Bar[]): readonly string[] {
  return bars.map((bar, index) => {
    const before = bars[index - 1];
    const meter = before && isSameMeter(before.meter, bar.meter) ? '' : `${formatMeter(bar.meter)}: `;
    return `${meter}${barPrompt(way, bar)}`;
  });
}

function barPrompt(way: DrillWay, bar: Bar): string {
  if (way === 'clap') return clapped(bar);
  if (way === 'step') {
    const steps = pulseOf(bar).length;
    return steps === 1 ? 'one step' : `${steps} steps`;
  }
  return countBar(bar, oddShown)
    .map(({ word }) => word)
    .join(' ');
}

/** A clap where a beat of the pulse begins, a dot on the small notes between. */
function clapped(bar: Bar): string {
  return pulseOf(bar)
    .map((beat) => ['×', ...Array.from({ length: Math.max(0, beat.parts - 1) }, () => '·')].join(' '))
    .join(' ');
}
