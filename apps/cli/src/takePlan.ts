import {
  paperRun,
  PLAIN_RUN,
  PLAYED_CHOICES,
  type PlayedChoice,
  type Proof,
  type RunPlan,
} from '@anchorbeat/core';
import { CommandError, type CommandContext } from './command.ts';

/** Options of what has to do with playing along. */
export const TAKE_OPTIONS = { from: { type: 'string' }, play: { type: 'string' } } as const;

/** The run that was played along with, as on paper: counted into the bar that `--from` names, else into the first one. */
export function takePlan({ piece, compiled }: Proof, { options }: CommandContext): RunPlan {
  const { from } = options;
  const barIndex = from === undefined ? 0 : compiled.labels.findIndex((label) => label === String(from));
  const performed = compiled.firstPerformed[barIndex] ?? -1;
  if (barIndex < 0) throw new CommandError(`There is no bar ${String(from)} in this piece`);
  if (performed < 0)
    throw new CommandError(`Bar ${String(from)} is never performed: look at the repeats and jumps`);
  return paperRun({ piece, compiled }, PLAIN_RUN, performed);
}

/** What was played, as `--play` says. */
export function playedOption({ options }: CommandContext): PlayedChoice {
  const { play = 'pulse' } = options;
  const known = PLAYED_CHOICES.find((choice) => choice === play);
  if (!known) throw new CommandError(`--play cannot be "${String(play)}": give ${PLAYED_CHOICES.join(', ')}`);
  return known;
}
