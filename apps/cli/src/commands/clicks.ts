import { clickKind, pulseOf, writtenBar, writtenIndex } from '@anchorbeat/core';
import { argument, csvRow, secondsText, type Command } from '../command.ts';

/** Every click of the performance, subdivisions and all, without the count-off. */
export const clicks: Command = {
  name: 'clicks',
  usage: 'clicks FILE',
  says: 'every click as CSV: time in seconds, performed bar, bar, pass, beat, kind',
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const { clicks: plan, timeline, labels } = proof.compiled;
    context.print(csvRow(['time_s', 'performed', 'bar', 'pass', 'beat', 'kind']));
    for (let index = 0; index < plan.timeSeconds.length; index++) {
      const performed = plan.performed[index] ?? 0;
      const beat = pulseOf(writtenBar(proof, performed))[plan.beat[index] ?? 0];
      context.print(
        csvRow([
          secondsText(plan.timeSeconds[index] ?? 0),
          performed + 1,
          labels[writtenIndex(proof, performed)] ?? '',
          timeline.route.pass[performed] ?? 1,
          beat?.numeral ?? '',
          clickKind(plan, index),
        ]),
      );
    }
    return 0;
  },
};
