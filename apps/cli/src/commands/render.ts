import { renderSamples } from '@anchorbeat/audio';
import { barCuesIn, FASTEST_PERCENT, paperRun, PLAIN_RUN, SLOWEST_PERCENT } from '@anchorbeat/core';
import { writeWav } from '@anchorbeat/formats';
import { argument, numberOption, type Command } from '../command.ts';

const RATES = [44_100, 48_000, 96_000];

/** The click with its count-off as a sound file, with a named place at every bar. */
export const render: Command = {
  name: 'render',
  usage: 'render IN out.wav [--rate=48000] [--bits=24] [--percent=80] [--subdivision] [--spoken[=all]]',
  says: 'the click with its count-off as a WAV file, every bar a named place in it',
  run: (context) => {
    const source = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the WAV file to write');
    const rate = numberOption(context, '--rate', 44_100, (value) => RATES.includes(value));
    const bits = numberOption(context, '--bits', 16, (value) => value === 16 || value === 24);
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
    const plan = paperRun(source, { ...PLAIN_RUN, spoken, percent, clickOn });
    const samples = renderSamples(plan, rate, isSpoken ? { words: context.words() } : {});
    const cues = barCuesIn(source, plan, rate);
    context.write(out, writeWav(samples, { sampleRate: rate, bits: bits === 24 ? 24 : 16, cues }));
    return 0;
  },
};
