import { countOffAdvice, formatMeter, formatNumber, pulseAdviceAt, rateAtBar } from '@anchorbeat/core';
import { argument, csvRow, type Command } from '../command.ts';

/** How each written bar is best beaten and counted into. */
export const advise: Command = {
  name: 'advise',
  usage: 'advise FILE',
  says: 'for each written bar, as CSV: in how many to beat it, at how many a minute, why, and how to count into it',
  run: (context) => {
    const { piece, compiled } = context.read(argument(context, 0, 'the file to read'));
    const { tempoMap, labels } = compiled;
    context.print(csvRow(['bar', 'meter', 'beats', 'beat_bpm', 'reason', 'count_off']));
    for (const [barIndex, bar] of piece.bars.entries()) {
      const { best, reason } = pulseAdviceAt({ piece, tempoMap }, barIndex);
      context.print(
        csvRow([
          labels[barIndex] ?? '',
          formatMeter(bar.meter),
          best.beats,
          formatNumber(best.bpm),
          reason,
          countOffAdvice(bar, rateAtBar(tempoMap, barIndex), best).says,
        ]),
      );
    }
    return 0;
  },
};
