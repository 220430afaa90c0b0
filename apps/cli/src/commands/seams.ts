import { formatEquivalence, seamDetails } from '@anchorbeat/core';
import { argument, csvRow, type Command } from '../command.ts';

/** Every seam in performed order. */
export const seams: Command = {
  name: 'seams',
  usage: 'seams FILE',
  says: 'seams as CSV: where, of which kind, how hard, what carries, the beat before and after in milliseconds',
  run: (context) => {
    const { piece, compiled } = context.read(argument(context, 0, 'the file to read'));
    context.print(
      csvRow(['performed', 'bar', 'kind', 'difficulty', 'carry', 'beat_before_ms', 'beat_after_ms']),
    );
    for (const seam of compiled.seams) {
      const details = seamDetails({ piece, compiled }, seam);
      const barIndex = compiled.timeline.route.barIndex[seam.performed] ?? 0;
      context.print(
        csvRow([
          seam.performed + 1,
          compiled.labels[barIndex] ?? '',
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
