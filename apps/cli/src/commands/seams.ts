import { formatEquivalence, seamDetails, writtenIndex, type SeamDetails } from '@anchorbeat/core';
import { argument, csvRow, type Command } from '../command.ts';

const COLUMNS = [
  'performed',
  'bar',
  'kind',
  'difficulty',
  'carry',
  'beat_before_ms',
  'beat_after_ms',
  'parts',
  'nearest',
  'traps',
];

/** Every seam in performed order. */
export const seams: Command = {
  name: 'seams',
  usage: 'seams FILE',
  says: 'seams as CSV: where, of which kind, how hard and why, what carries or nearly does, the beat before and after in milliseconds, the traps',
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const { seams: all, labels } = proof.compiled;
    context.print(csvRow(COLUMNS));
    for (const seam of all) {
      const details = seamDetails(proof, seam);
      context.print(
        csvRow([
          seam.performed + 1,
          labels[writtenIndex(proof, seam.performed)] ?? '',
          details.kind,
          seam.difficulty.score,
          seam.carry ? formatEquivalence(seam.carry) : '',
          details.pulseBefore.milliseconds.toFixed(6),
          details.pulseAfter.milliseconds.toFixed(6),
          partsText(details),
          details.nearest
            ? `${formatEquivalence(details.nearest)}, off by ${(100 * details.nearest.errorRatio).toFixed(1)} %`
            : '',
          details.traps.map(({ says }) => says).join('; '),
        ]),
      );
    }
    return 0;
  },
};

/** "odd bar 18; grouping 5": what the difficulty is the sum of. */
function partsText({ difficulty }: SeamDetails): string {
  return difficulty
    .filter(({ points }) => points > 0)
    .map(({ part, points }) => `${part} ${points}`)
    .join('; ');
}
