import { EXPLANATIONS, simulatedTake, type Habit } from '@anchorbeat/core';
import { argument, CommandError, numberOption, secondsText, type Command } from '../command.ts';
import { playedOption, TAKE_OPTIONS, takePlan } from '../takePlan.ts';

const HABITS = EXPLANATIONS.filter((name): name is Habit => name !== 'too-few');
const isSeed = (value: number): value is number => Number.isInteger(value) && value >= 0;
/** A run that waits for a cue, or goes round without end, is played for so long. */
const LONGEST_SECONDS = 3600;

/** Onsets of a simulated player with a habit. */
export const simulate: Command = {
  name: 'simulate',
  usage: 'simulate FILE [--habit=held] [--seed=1] [--from=BAR] [--play=pulse|groups|carry|notes]',
  says: `onset seconds of a simulated player, one a line; habits: ${HABITS.join(', ')}`,
  options: { ...TAKE_OPTIONS, habit: { type: 'string' }, seed: { type: 'string' } },
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const { habit = 'held' } = context.options;
    const known = HABITS.find((name) => name === habit);
    if (!known) throw new CommandError(`--habit cannot be "${String(habit)}": give ${HABITS.join(', ')}`);
    const plan = takePlan(proof, context);
    const { onsets } = simulatedTake(proof, plan, {
      habit: known,
      seed: numberOption(context, 'seed', 1, isSeed),
      play: playedOption(context),
      untilSeconds: Math.min(plan.lengthSeconds - 1e-6, LONGEST_SECONDS),
    });
    for (const onset of onsets) context.print(`${secondsText(onset)}\n`);
    return 0;
  },
};
