import { barStart, formatMeter, performedCount, writtenBar, writtenIndex } from '@anchorbeat/core';
import { argument, csvRow, secondsText, type Command } from '../command.ts';

/** Every performed bar with its times, from the first performed bar on. */
export const bars: Command = {
  name: 'bars',
  usage: 'bars FILE',
  says: 'performed bars as CSV: which bar, which pass, meter, start and length in seconds',
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const { labels, timeline } = proof.compiled;
    const { route } = timeline;
    context.print(csvRow(['performed', 'bar', 'pass', 'meter', 'start_s', 'length_s']));
    for (let performed = 0; performed < performedCount(timeline); performed++) {
      const start = barStart(timeline, performed);
      context.print(
        csvRow([
          performed + 1,
          labels[writtenIndex(proof, performed)] ?? '',
          route.pass[performed] ?? 1,
          formatMeter(writtenBar(proof, performed).meter),
          secondsText(start),
          secondsText(barStart(timeline, performed + 1) - start),
        ]),
      );
    }
    return 0;
  },
};
