import { formatEquivalence, seamDetails, writtenIndex } from '@anchorbeat/core';
import { argument, csvRow, type Command } from '../command.ts';

/** Every seam in performed order. */
export const seams: Command = {
  name: 'seams',
  usage: 'seams FILE',
  says: 'seams as CSV: where, of which kind, how hard, what carries, the beat before and after in milliseconds',
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const { seams: all, labels } = proof.compiled;
    context.print(
      csvRow(['performed', 'bar', 'kind', 'difficulty', 'carry', 'beat_before_ms', 'beat_after_ms']),
    );
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
        ]),
      );
    }
    return 0;
  },
};
