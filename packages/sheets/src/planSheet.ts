import { howMany, type Plan, type PlanItem } from '@anchorbeat/core';
import type { Shape } from '@anchorbeat/drawing';
import { besides, heading, rule, spaced, stacked, textBlock } from './blocks.ts';
import { clockText } from './clockText.ts';
import { flowed } from './flow.ts';
import type { Block, SheetDocument } from './page.ts';
import { frameOf, type SheetSettings } from './settings.ts';

/** What a rehearsal's plan is printed with. */
export interface PlanToPrint {
  readonly ensemble: string;
  /** "Tuesday 1 December, 19:30". */
  readonly when: string;
  readonly title: string;
  readonly minutes: number;
  readonly absent: readonly string[];
  readonly plan: Plan;
  /** What was done so far. */
  readonly done: ReadonlyArray<{
    readonly title: string;
    readonly planned: number;
    readonly seconds: number;
  }>;
}

const CLOCK_PT = 40;
const MINUTES_PT = 46;
const BOX_PT = 22;
const NOTE_LINES = 2;
const NOTE_LINE_PT = 17;

/** The order of work of a rehearsal, with a box to tick and lines to write on at every place. */
export function planDocument(toPrint: PlanToPrint, settings: SheetSettings): SheetDocument {
  const frame = frameOf(settings);
  const { bodyWidthPt } = frame;
  const { plan, done } = toPrint;
  const blocks: readonly Block[] = [
    planHead(toPrint, bodyWidthPt),
    ...plan.items.map((item) => itemBlock(item, bodyWidthPt)),
    ...(plan.next.length > 0
      ? [
          spaced(
            textBlock(
              `Left out, and would gain most: ${plan.next.join('; ')}`,
              { size: 10, tone: 'quiet' },
              bodyWidthPt,
            ),
            8,
          ),
        ]
      : []),
    ...(done.length > 0
      ? [heading('Done', bodyWidthPt), ...done.map((item) => doneBlock(item, bodyWidthPt))]
      : []),
  ];
  const title = `${toPrint.ensemble} · ${toPrint.when}`;
  return { title, pages: flowed(blocks, frame, title) };
}

function planHead({ ensemble, when, title, minutes, absent, plan }: PlanToPrint, widthPt: number): Block {
  const { outOfReach } = plan;
  const facts = [
    ensemble,
    title,
    howMany(minutes, 'minute'),
    absent.length > 0 && `without ${absent.join(', ')}`,
  ];
  return stacked([
    textBlock(when, { size: 20, weight: 800, face: 'display' }, widthPt, { role: 'title' }),
    textBlock(facts.filter(Boolean).join(' · '), { size: 11.5, weight: 700 }, widthPt, { afterPt: 2 }),
    ...(outOfReach && outOfReach.places > 0
      ? [
          textBlock(
            `At this rate ${outOfReach.places} of ${howMany(outOfReach.of, 'place')} will not be ready for the concert.`,
            { size: 10.5, weight: 700, tone: 'seam' },
            widthPt,
            { afterPt: 2 },
          ),
        ]
      : []),
    rule(widthPt),
  ]);
}

function itemBlock({ kind, title, startMinute, minutes, percent, why }: PlanItem, widthPt: number): Block {
  const textPt = widthPt - CLOCK_PT - BOX_PT - MINUTES_PT;
  const isWork = kind === 'place' || kind === 'whole';
  const told = [kind === 'place' && `from ${percent} %`, ...why].filter(Boolean).join(' · ');
  const body = stacked([
    textBlock(title, { size: 12, weight: isWork ? 700 : 400 }, textPt, { x: 0 }),
    textBlock(told, { size: 9.5, tone: 'quiet' }, textPt),
    ...(isWork ? [noteLines(textPt)] : []),
  ]);
  const row = besides([
    {
      x: 0,
      block: textBlock(clockText(startMinute), { size: 11, tone: 'quiet', face: 'display' }, CLOCK_PT),
    },
    ...(isWork ? [{ x: CLOCK_PT, block: tickBox() }] : []),
    { x: CLOCK_PT + BOX_PT, block: body },
    {
      x: widthPt - MINUTES_PT + 10,
      block: textBlock(`${minutes} min`, { size: 12, weight: 800, face: 'display' }, MINUTES_PT),
    },
  ]);
  return stacked([spaced(row, 6), rule(widthPt)]);
}

function doneBlock({ title, planned, seconds }: PlanToPrint['done'][number], widthPt: number): Block {
  const textPt = widthPt - 2 * MINUTES_PT;
  return besides([
    { x: 0, block: textBlock(title, { size: 10.5 }, textPt, { afterPt: 2 }) },
    {
      x: textPt + 10,
      block: textBlock(`${Math.round(seconds / 60)} of ${planned} min`, { size: 10.5 }, 2 * MINUTES_PT),
    },
  ]);
}

function tickBox(): Block {
  return furniture([{ kind: 'path', d: 'M1 4H11V14H1Z', stroke: 'ink', strokePx: 1 }], 16);
}

/** Lines to write on with a pencil. */
function noteLines(widthPt: number): Block {
  const lines = Array.from(
    { length: NOTE_LINES },
    (_, index) => `M0 ${(index + 1) * NOTE_LINE_PT}H${widthPt}`,
  );
  return furniture(
    [{ kind: 'path', d: lines.join(''), stroke: 'faint', strokePx: 0.7 }],
    NOTE_LINES * NOTE_LINE_PT + 4,
  );
}

function furniture(shapes: readonly Shape[], heightPt: number): Block {
  return { heightPt, items: [{ role: 'furniture', x: 0, y: 0, scale: 1, shapes }] };
}
