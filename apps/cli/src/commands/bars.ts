import { formatMeter } from '@anchorbeat/core';
import { argument, csvRow, secondsText, type Command } from '../command.ts';

/** Every performed bar with its times, from the first performed bar on. */
export const bars: Command = {
  name: 'bars',
  usage: 'bars FILE',
  says: 'performed bars as CSV: which bar, which pass, meter, start and length in seconds',
  run: (context) => {
    const { piece, compiled } = context.read(argument(context, 0, 'the file to read'));
    const { route, barStartSeconds } = compiled.timeline;
    context.print(csvRow(['performed', 'bar', 'pass', 'meter', 'start_s', 'length_s']));
    for (let performed = 0; performed < route.barIndex.length; performed++) {
      const barIndex = route.barIndex[performed] ?? 0;
      const bar = piece.bars[barIndex];
      const [start, end] = [barStartSeconds[performed] ?? 0, barStartSeconds[performed + 1] ?? 0];
      context.print(
        csvRow([
          performed + 1,
          compiled.labels[barIndex] ?? '',
          route.pass[performed] ?? 1,
          bar ? formatMeter(bar.meter) : '',
          secondsText(start),
          secondsText(end - start),
        ]),
      );
    }
    return 0;
  },
};
