import {
  barName,
  countOffFor,
  COUNT_SCHOOLS,
  countSchoolMaybe,
  formatNumber,
  type CountOff,
  type Proof,
} from '@anchorbeat/core';
import { spaced, textBlock } from '../blocks.ts';
import type { Block } from '../page.ts';
import { paperLine, paperSystems, spanOf } from '../paperLine.ts';
import type { Sheet, SheetRequest } from '../sheet.ts';
import { systemBlock } from '../systemBlock.ts';
import { routeBlockMaybe, titleBlock } from '../titleBlock.ts';

/** The line with its counts, for one section or for the director. */
export const countSheet: Sheet = {
  id: 'count-sheet',
  name: 'Count sheet',
  says: 'The line with its counts, seams, rests and your words, for a stand.',
  hears: ['section', 'bars', 'pulse', 'count', 'room'],
  blocks: (request, { bodyWidthPt }) => {
    const { proof, settings } = request;
    const line = paperLine(proof, settings, bodyWidthPt);
    const route = routeBlockMaybe(proof, bodyWidthPt);
    return [
      titleBlock(proof, whatFor(request), bodyWidthPt),
      ...(route ? [route] : []),
      spaced(countOffBlock(proof, spanOf(proof, settings).from, bodyWidthPt), 2),
      ...paperSystems(line).map((system) => systemBlock(line, system)),
    ];
  },
};

function whatFor({ proof, settings }: SheetRequest): string {
  const { from, to } = spanOf(proof, settings);
  const { labels } = proof.compiled;
  const school = countSchoolMaybe(settings.countSchool) ?? COUNT_SCHOOLS[0];
  const isWhole = from === 0 && to === proof.piece.bars.length;
  return [
    settings.section ?? 'Director',
    !isWhole && `${barName(labels, from)} to ${barName(labels, to - 1)}`,
    `counted in ${school.name.charAt(0).toLowerCase()}${school.name.slice(1)}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** How the first printed bar is counted off, in words and at which tempo. */
function countOffBlock(proof: Proof, barIndex: number, widthPt: number): Block {
  const { piece, compiled } = proof;
  const performed = compiled.firstPerformed[barIndex] ?? -1;
  if (performed < 0) return textBlock('', { size: 10 }, widthPt);
  const countOff = countOffFor(piece, compiled.timeline, performed);
  const beat = countOff.beats[0];
  const bpm = beat ? 60 / beat.lengthSeconds : 0;
  const at = bpm > 0 ? ` at ${formatNumber({ n: Math.round(bpm * 100), d: 100 })} a minute` : '';
  return textBlock(
    `Count-off: ${countedWords(countOff)}${at}`,
    { size: 10.5, weight: 700, tone: 'entry-text' },
    widthPt,
    {
      afterPt: 6,
    },
  );
}

/** "1 2 3 4 | 1 2 3 4": what is said, silent beats in brackets. */
function countedWords({ beats }: CountOff): string {
  const bars = new Map<number, string[]>();
  for (const { bar, word, sound } of beats) {
    const said = word || '-';
    const words = bars.get(bar) ?? [];
    bars.set(bar, [...words, sound === 'silent' ? `(${said})` : said]);
  }
  return [...bars.values()].map((words) => words.join(' ')).join(' | ');
}
