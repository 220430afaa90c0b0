import { renderSamples } from '@anchorbeat/audio';
import {
  barName,
  FASTEST_PERCENT,
  PLAIN_RUN,
  runFrom,
  SLOWEST_PERCENT,
  type RunPlan,
} from '@anchorbeat/core';
import { writeWav, type WavCue } from '@anchorbeat/formats';
import { argument, numberOption, type Command, type ReadPiece } from '../command.ts';

const RATES = [44_100, 48_000, 96_000];

/** The click with its count-off as a sound file, with a named place at every bar. */
export const render: Command = {
  name: 'render',
  usage: 'render FILE out.wav [--rate=48000] [--bits=24] [--percent=80] [--subdivision]',
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
    const plan = runFrom(playable(source), 0, { ...PLAIN_RUN, spoken: 'nothing', percent, clickOn });
    const samples = renderSamples(plan, rate);
    const cues = barCues(source, plan, rate);
    context.write(out, writeWav(samples, { sampleRate: rate, bits: bits === 24 ? 24 : 16, cues }));
    return 0;
  },
};

/** As on paper: nobody is there to say go on, so a hold until cued has no length and an open repeat goes as its endings say. */
function playable({ piece, compiled }: ReadPiece): ReadPiece {
  const bars = piece.bars.map((bar) =>
    bar.endsRepeat === 'until cued' ? { ...bar, endsRepeat: 2 as const } : bar,
  );
  const { timeline } = compiled;
  const holds = timeline.holds.filter(({ hold }) => hold.length.kind !== 'until cued');
  return { piece: { ...piece, bars }, compiled: { ...compiled, timeline: { ...timeline, holds } } };
}

function barCues({ compiled }: ReadPiece, plan: RunPlan, rate: number): readonly WavCue[] {
  const { route, barStartSeconds } = compiled.timeline;
  return Array.from(route.barIndex, (barIndex, performed) => {
    const start = barStartSeconds[performed] ?? 0;
    const stretch = plan.stretches.findLast(
      ({ kind, fromSeconds }) => kind === 'music' && fromSeconds <= start + 1e-9,
    );
    const runSeconds = stretch ? stretch.runSeconds + (start - stretch.fromSeconds) / stretch.pace : 0;
    return { sample: Math.round(runSeconds * rate), label: barName(compiled.labels, barIndex) };
  });
}
