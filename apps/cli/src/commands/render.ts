import { SAMPLE_BITS, SAMPLE_RATES, soundFile, type SoundWishes } from '@anchorbeat/audio';
import { FASTEST_PERCENT, SLOWEST_PERCENT } from '@anchorbeat/core';
import { argument, CommandError, numberOption, type Command, type CommandContext } from '../command.ts';

/** The click with its count-off as a sound file, with a named place at every bar. */
export const render: Command = {
  name: 'render',
  usage:
    'render IN out.wav [--rate=48000] [--bits=24] [--percent=80] [--subdivision] [--spoken] [--spoken-all]',
  says: 'the click with its count-off as a WAV file, every bar a named place in it',
  options: {
    rate: { type: 'string' },
    bits: { type: 'string' },
    percent: { type: 'string' },
    subdivision: { type: 'boolean' },
    spoken: { type: 'boolean' },
    'spoken-all': { type: 'boolean' },
  },
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the WAV file to write');
    if (!/\.wav$/i.test(out))
      throw new CommandError(`${out} is no sound file that can be written: name it out.wav`);
    const wishes = wishesOf(context);
    const sound = soundFile(proof, wishes, wishes.spoken === 'nothing' ? {} : { words: context.words() });
    if (!sound.ok) throw new CommandError(sound.problem.message);
    context.write(out, sound.value.parts);
    return 0;
  },
};

function wishesOf(context: CommandContext): SoundWishes {
  const { options } = context;
  return {
    sampleRate: numberOption(context, 'rate', 44_100, isOneOf(SAMPLE_RATES)),
    bits: numberOption(context, 'bits', 16, isOneOf(SAMPLE_BITS)),
    percent: numberOption(context, 'percent', 100, isPercent),
    clickOn: options['subdivision'] ? 'subdivision' : 'pulse',
    spoken: options['spoken-all'] ? 'everything' : options['spoken'] ? 'count-off' : 'nothing',
  };
}

function isOneOf<N extends number>(list: readonly N[]): (value: number) => value is N {
  return (value): value is N => list.some((each) => each === value);
}

function isPercent(value: number): value is number {
  return value >= SLOWEST_PERCENT && value <= FASTEST_PERCENT;
}
