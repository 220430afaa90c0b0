import { analysedTake, writtenIndex } from '@anchorbeat/core';
import { argument, CommandError, csvRow, type Command } from '../command.ts';
import { playedOption, TAKE_OPTIONS, takePlan } from '../takePlan.ts';

/** What was done at each seam of a take. */
export const take: Command = {
  name: 'take',
  usage: 'take FILE ONSETS.csv [--from=BAR] [--play=pulse|groups|carry|notes]',
  says: 'from onset seconds, one a line, counted from the first count-off click: for each seam passed, as CSV, what was done there, how sure that is and how far off it came',
  options: TAKE_OPTIONS,
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const play = playedOption(context);
    const onsets = onsetsIn(context.readText(argument(context, 1, 'the file of onsets')));
    const { seams } = analysedTake(proof, takePlan(proof, context), { onsets, play });
    context.print(csvRow(['bar', 'explanation', 'probability', 'effect_ms', 'second', 'second_probability']));
    for (const seam of seams)
      context.print(
        csvRow([
          proof.compiled.labels[writtenIndex(proof, seam.performed)] ?? '',
          seam.explanation,
          seam.probability.toFixed(3),
          seam.effectMs.toFixed(1),
          seam.second ?? '',
          seam.secondProbability.toFixed(3),
        ]),
      );
    return 0;
  },
};

/** Seconds, one a line; a heading, empty lines and further columns are passed over. */
function onsetsIn(text: string): readonly number[] {
  return text.split(/\r?\n/).flatMap((line, index) => {
    const cell = line.split(/[;,\t]/, 1)[0]?.trim() ?? '';
    if (cell === '' || (index === 0 && Number.isNaN(Number(cell)))) return [];
    const seconds = Number(cell);
    if (Number.isFinite(seconds)) return [seconds];
    throw new CommandError(`Line ${index + 1}: "${cell.slice(0, 40)}" is no number of seconds`);
  });
}
