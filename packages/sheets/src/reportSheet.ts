import { besides, heading, rule, stacked, textBlock } from './blocks.ts';
import { flowed } from './flow.ts';
import type { Block, SheetDocument } from './page.ts';
import { frameOf, type SheetSettings } from './settings.ts';

/** What a report tells: under each heading, lines with what they are about and what is said of it. */
export interface Report {
  readonly title: string;
  readonly facts: string;
  readonly groups: ReadonlyArray<{
    readonly heading: string;
    readonly lines: ReadonlyArray<{ readonly about: string; readonly says: string }>;
  }>;
}

const ABOUT_SHARE = 0.42;
const GUTTER_PT = 10;

/** A report on pages, such as the log of a season. */
export function reportDocument({ title, facts, groups }: Report, settings: SheetSettings): SheetDocument {
  const frame = frameOf(settings);
  const { bodyWidthPt } = frame;
  const head = stacked([
    textBlock(title, { size: 20, weight: 800, face: 'display' }, bodyWidthPt, { role: 'title' }),
    textBlock(facts, { size: 11, tone: 'quiet' }, bodyWidthPt, { afterPt: 2 }),
    rule(bodyWidthPt),
  ]);
  const blocks = groups.flatMap(({ heading: name, lines }) => [
    heading(name, bodyWidthPt),
    ...lines.map((line) => lineBlock(line, bodyWidthPt)),
  ]);
  return { title, pages: flowed([head, ...blocks], frame, title) };
}

function lineBlock({ about, says }: Report['groups'][number]['lines'][number], widthPt: number): Block {
  const aboutPt = widthPt * ABOUT_SHARE;
  return besides([
    { x: 0, block: textBlock(about, { size: 10, weight: 700 }, aboutPt - GUTTER_PT, { afterPt: 2 }) },
    { x: aboutPt, block: textBlock(says, { size: 10 }, widthPt - aboutPt, { afterPt: 2 }) },
  ]);
}
