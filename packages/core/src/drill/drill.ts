import { writtenBar, type Proof } from '../proof/proof.ts';
import type { CompiledPiece } from '../compile/compile.ts';
import { feltBeats } from '../pulse/pulse.ts';
import {
  PLAIN_RUN,
  type ClickChoice,
  type Fade,
  type RunSettings,
  type SpokenChoice,
} from '../run/settings.ts';
import { bpmOf } from '../tempo/tempoMark.ts';
import { rateAt } from '../timeline/query.ts';
import { toNumber, ZERO } from '../fraction/fraction.ts';
import { drillSpanMaybe, performedOfPlaceMaybe, type DrillContext, type DrillPlace } from './place.ts';

/** What clicks in a drill. "until the seam" leaves the players alone from the anchor on. */
export const DRILL_CLICKS = [
  'carry',
  'pulse',
  'subdivision',
  'until the seam',
  'anchor only',
  'nothing',
] as const;
export type DrillClick = (typeof DRILL_CLICKS)[number];

/** How a place is drilled. Everything that is kept of a drill. */
export interface DrillSettings {
  readonly context: DrillContext;
  /** Of the printed tempo. */
  readonly percent: number;
  readonly click: DrillClick;
  readonly spoken: SpokenChoice;
  /** Times through before it stops by itself; null for as long as one likes. */
  readonly rounds: number | null;
}

export const PLAIN_DRILL: DrillSettings = {
  context: { before: 2, after: 2 },
  percent: 100,
  click: 'pulse',
  spoken: 'count-off',
  rounds: null,
};

export const MOST_CONTEXT_BARS = 16;
export const MOST_ROUNDS = 99;

/** A drill ready to be run: counted into `from`, in a loop, as it is wanted. */
export interface DrillRun {
  readonly from: number;
  readonly settings: RunSettings;
}

/** The run of a drill, or null where its place is never performed. */
export function drillRunMaybe(
  compiled: CompiledPiece,
  place: DrillPlace,
  drill: DrillSettings,
): DrillRun | null {
  const span = drillSpanMaybe(compiled, place, drill.context);
  if (!span) return null;
  const performed = performedOfPlaceMaybe(compiled, place) ?? span.from;
  const before = Math.max(1, performed - span.from);
  const { clickOn, fade } = clickOf(drill.click, before, span.to - span.from);
  return {
    from: span.from,
    settings: {
      ...PLAIN_RUN,
      percent: drill.percent,
      clickOn,
      fade,
      spoken: drill.spoken,
      loop: span,
      countsEachRound: true,
      rounds: drill.rounds,
      seamAt: place.kind === 'seam' ? performed : null,
    },
  };
}

function clickOf(
  click: DrillClick,
  barsBefore: number,
  bars: number,
): { readonly clickOn: ClickChoice; readonly fade: Fade | null } {
  switch (click) {
    case 'until the seam':
      return {
        clickOn: 'pulse',
        fade: { kind: 'bars', on: barsBefore, off: Math.max(1, bars - barsBefore) },
      };
    case 'anchor only':
      return { clickOn: 'anchors', fade: null };
    case 'carry':
    case 'pulse':
    case 'subdivision':
    case 'nothing':
      return { clickOn: click, fade: null };
  }
}

/** The printed tempo at a place, as the beat there in beats per minute; null where it is never performed. */
export function printedBpmMaybe(proof: Proof, place: DrillPlace): number | null {
  const performed = performedOfPlaceMaybe(proof.compiled, place);
  if (performed === null) return null;
  const beat = feltBeats(writtenBar(proof, performed))[0];
  const rate = rateAt(proof.compiled.timeline, { performed, atWholes: ZERO });
  return beat ? toNumber(bpmOf(rate, beat.lengthWholes)) : null;
}
