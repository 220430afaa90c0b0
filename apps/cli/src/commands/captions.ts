import { FASTEST_PERCENT, paperRun, PLAIN_RUN, SLOWEST_PERCENT } from '@anchorbeat/core';
import { captionsOf, subRipOf, webVttOf } from '@anchorbeat/formats';
import { argument, CommandError, numberOption, type Command } from '../command.ts';

/** The offset may lie anywhere within a day. */
const MOST_OFFSET_SECONDS = 86_400;
const isOffset = (value: number): value is number => Math.abs(value) <= MOST_OFFSET_SECONDS;
const isPercent = (value: number): value is number => value >= SLOWEST_PERCENT && value <= FASTEST_PERCENT;

/** Bars, counts and seams as captions of a video. */
export const captions: Command = {
  name: 'captions',
  usage: 'captions IN out.vtt [--offset=SECONDS] [--percent=100]',
  says: 'bars, counts, seams and words as captions for a video, WebVTT or SubRip (.srt); the offset is where its first count-off click falls',
  options: { offset: { type: 'string' }, percent: { type: 'string' } },
  run: (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the caption file to write');
    const write = /\.vtt$/i.test(out) ? webVttOf : /\.srt$/i.test(out) ? subRipOf : null;
    if (!write) throw new CommandError(`${out} is no caption file: name it out.vtt or out.srt`);
    const percent = numberOption(context, 'percent', 100, isPercent);
    const plan = paperRun(proof, { ...PLAIN_RUN, percent });
    const told = captionsOf(proof, plan, numberOption(context, 'offset', 0, isOffset));
    context.write(out, [new TextEncoder().encode(write(told))]);
    return 0;
  },
};
