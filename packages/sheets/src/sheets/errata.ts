import { besides, rule, spaced, textBlock } from '../blocks.ts';
import type { Block } from '../page.ts';
import type { Sheet } from '../sheet.ts';
import { titleBlock } from '../titleBlock.ts';

const SIZE = 10;
/** Shares of the width: where, what stood there, what stands there now, why and who saw it. */
const COLUMNS = [
  { name: 'where', share: 0.14 },
  { name: 'stands in print', share: 0.24 },
  { name: 'should be', share: 0.24 },
  { name: 'why', share: 0.38 },
] as const;
const GUTTER_PT = 8;

/** What was put right in the piece, for pencils. */
export const errata: Sheet = {
  id: 'errata',
  name: 'Errata',
  says: 'What was put right: where, what stands in print, what should be there.',
  hears: [],
  blocks: ({ proof }, { bodyWidthPt }) => {
    const corrections = proof.piece.corrections ?? [];
    const title = titleBlock(proof, 'Errata', bodyWidthPt);
    if (corrections.length === 0)
      return [title, textBlock('Nothing had to be put right so far.', { size: 11 }, bodyWidthPt)];
    return [
      title,
      {
        ...row(
          COLUMNS.map(({ name }) => name),
          bodyWidthPt,
          true,
        ),
        staysWithNext: true,
      },
      ...corrections.flatMap(({ place, was, is, why, spottedBy, on }) => [
        row(
          [place, was, is, [why, spottedBy && `seen by ${spottedBy}`, on].filter(Boolean).join(' · ')],
          bodyWidthPt,
        ),
        rule(bodyWidthPt),
      ]),
    ];
  },
};

function row(cells: readonly string[], widthPt: number, isHead = false): Block {
  let x = 0;
  return spaced(
    besides(
      cells.map((cell, index) => {
        const columnPt = (COLUMNS[index]?.share ?? 0) * widthPt;
        const look = isHead ? ({ size: 9, tone: 'quiet' } as const) : ({ size: SIZE } as const);
        const placed = { x, block: textBlock(cell, look, columnPt - GUTTER_PT) };
        x += columnPt;
        return placed;
      }),
    ),
    3,
  );
}
