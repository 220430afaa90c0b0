import {
  SAMPLE_BITS,
  SAMPLE_RATES,
  SOUND_FORMATS,
  soundFile,
  soundTrack,
  type SoundFormat,
  type SoundWishes,
} from '@anchorbeat/audio';
import {
  CLICK_CHOICES,
  FASTEST_PERCENT,
  inARow,
  ladderOf,
  MOST_ROUNDS,
  paperSounds,
  PLAIN_DRILL,
  PLAIN_LADDER,
  seamPlace,
  SLOWEST_PERCENT,
  type Proof,
  type SoundExtent,
} from '@anchorbeat/core';
import { CommandError, numberOption, type Command, type CommandContext } from '../command.ts';
import { barNamed, oneOf } from '../sheetOptions.ts';

const MOST_PAUSE_SECONDS = 600;
const USUAL_PAUSE_SECONDS = 10;
const USUAL_ROUNDS = 4;

/** The click with its count-off as a sound file, by the ending of its name. */
export const render: Command = {
  name: 'render',
  usage:
    'render IN [IN…] out.wav|.flac|.mp3 [--click=anchors] [--spoken|--spoken-all] [--desk] [--percent=80] [--count-off] [--seam=BAR [--rounds=4] [--ladder]] [--pause=10] [--rate=48000] [--bits=24]',
  says: 'the click with its count-off as sound; of several pieces, one after another',
  options: {
    rate: { type: 'string' },
    bits: { type: 'string' },
    percent: { type: 'string' },
    click: { type: 'string' },
    subdivision: { type: 'boolean' },
    spoken: { type: 'boolean' },
    'spoken-all': { type: 'boolean' },
    desk: { type: 'boolean' },
    'count-off': { type: 'boolean' },
    seam: { type: 'string' },
    rounds: { type: 'string' },
    ladder: { type: 'boolean' },
    pause: { type: 'string' },
  },
  run: async (context) => {
    const { positionals } = context;
    if (positionals.length < 2)
      throw new CommandError(`Name ${positionals[0] ? 'the sound file to write' : 'the file to read'}`);
    const out = positionals.at(-1) as string;
    const wishes = wishesOf(context, formatOf(out));
    const pause = numberOption(context, 'pause', USUAL_PAUSE_SECONDS, isUpTo(MOST_PAUSE_SECONDS));
    const parts = positionals.slice(0, -1).map((file) => {
      const proof = context.read(file);
      return valueOf(paperSounds(proof, extentOf(context, proof, wishes), wishes));
    });
    const options = wishes.spoken === 'nothing' ? {} : { words: context.words() };
    const track = valueOf(soundTrack(inARow(parts, pause), wishes, options));
    const file = await soundFile(track, wishes);
    context.write(out, file.parts);
    return 0;
  },
};

function formatOf(out: string): SoundFormat {
  const format = SOUND_FORMATS.find((each) => out.toLowerCase().endsWith(`.${each}`));
  if (format) return format;
  throw new CommandError(`${out} is no sound file that can be written: name it out.wav, out.flac or out.mp3`);
}

function wishesOf(context: CommandContext, format: SoundFormat): SoundWishes {
  const { options } = context;
  const isDesk = options['desk'] === true;
  const spoken = options['spoken-all'] ? 'everything' : options['spoken'] || isDesk ? 'count-off' : 'nothing';
  return {
    format,
    sampleRate: numberOption(context, 'rate', 44_100, isOneOf(SAMPLE_RATES)),
    bits: numberOption(context, 'bits', 16, isOneOf(SAMPLE_BITS)),
    percent: numberOption(context, 'percent', 100, isPercent),
    clickOn: oneOf(options, 'click', CLICK_CHOICES, options['subdivision'] ? 'subdivision' : 'pulse'),
    spoken,
    channels: isDesk ? 'click and words' : 'one',
  };
}

/** How much of a piece: all of it, its count-off, or the drill or ladder of a seam. */
function extentOf(context: CommandContext, proof: Proof, { percent, spoken }: SoundWishes): SoundExtent {
  const { options } = context;
  if (options['count-off']) return { kind: 'count-off' };
  if (options['seam'] === undefined) {
    if (options['ladder']) throw new CommandError('Say of which seam the ladder is: --seam=BAR');
    return { kind: 'piece' };
  }
  const place = seamPlace(proof.compiled, barNamed(proof, 'seam', String(options['seam'])));
  const rounds = numberOption(context, 'rounds', options['ladder'] ? 1 : USUAL_ROUNDS, isRounds);
  if (!options['ladder']) return { kind: 'drill', place, rounds };
  const rungs = ladderOf(proof, place, PLAIN_LADDER, { ...PLAIN_DRILL, percent, spoken });
  return { kind: 'ladder', place, rounds, rungs };
}

function valueOf<T>(
  result:
    | { readonly ok: true; readonly value: T }
    | { readonly ok: false; readonly problem: { message: string } },
): T {
  if (result.ok) return result.value;
  throw new CommandError(result.problem.message);
}

function isOneOf<N extends number>(list: readonly N[]): (value: number) => value is N {
  return (value): value is N => list.some((each) => each === value);
}

function isUpTo(most: number): (value: number) => value is number {
  return (value): value is number => value >= 0 && value <= most;
}

function isRounds(value: number): value is number {
  return Number.isInteger(value) && value >= 1 && value <= MOST_ROUNDS;
}

function isPercent(value: number): value is number {
  return value >= SLOWEST_PERCENT && value <= FASTEST_PERCENT;
}
