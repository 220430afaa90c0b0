import { joined, SAMPLE_BITS, SAMPLE_RATES, soundFile, type SoundWishes } from '@anchorbeat/audio';
import { FASTEST_PERCENT, SLOWEST_PERCENT } from '@anchorbeat/core';
import { argument, CommandError, numberOption, type Command } from '../command.ts';

/** The click with its count-off as a sound file, with a named place at every bar. */
export const render: Command = {
  name: 'render',
  usage: 'render IN out.wav [--rate=48000] [--bits=24] [--percent=80] [--subdivision] [--spoken[=all]]',
  says: 'the click with its count-off as a WAV file, every bar a named place in it',
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the WAV file to write');
    const sampleRate = numberOption(context, '--rate', 44_100, (value) => SAMPLE_RATES.includes(value as never));
    const bits = numberOption(context, '--bits', 16, (value) => SAMPLE_BITS.includes(value as never));
    const percent = numberOption(
      context,
      '--percent',
      100,
      (value) => value >= SLOWEST_PERCENT && value <= FASTEST_PERCENT,
    );
    const clickOn = context.args.includes('--subdivision') ? 'subdivision' : 'pulse';
    const spokenAll = context.args.includes('--spoken=all');
    const isSpoken = spokenAll || context.args.includes('--spoken');
    const spoken = spokenAll ? 'everything' : isSpoken ? 'count-off' : 'nothing';
    const wishes = { sampleRate, bits, percent, clickOn, spoken } as SoundWishes;
    const sound = soundFile(proof, wishes, isSpoken ? { words: context.words() } : {});
    if (!sound.ok) throw new CommandError(sound.problem.message);
    context.write(out, joined(sound.value.parts));
    return 0;
  },
};
