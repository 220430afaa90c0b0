import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { describe, expect, test } from '@jest/globals';
import { MPEGDecoder } from 'mpg123-decoder';
import wavefile from 'wavefile';
import {
  inARow,
  PLAIN_LADDER,
  ladderOf,
  PLAIN_DRILL,
  paperSounds,
  seamPlace,
  type PlacedSounds,
  type SoundExtent,
} from '@anchorbeat/core';
import { proofWith } from '../../core/src/test/pieceOf.ts';
import { soundFile } from './soundFile.ts';
import { soundTrack, type SoundWishes } from './soundTrack.ts';
import { joined } from './wav/writeWav.ts';

const WISHES: SoundWishes = {
  format: 'wav',
  sampleRate: 44_100,
  bits: 16,
  percent: 100,
  clickOn: 'pulse',
  spoken: 'nothing',
  channels: 'one',
};

/** One word that is a loud tone for 80 ms, its vowel 20 ms in. */
const WORDS = {
  samples: Float32Array.from({ length: 4410 }, (_, at) => 0.6 * Math.sin(at / 9)),
  sampleRate: 44_100,
  index: Object.fromEntries(
    ['1', '2', '3', '4', 'one', 'two'].map((word) => [
      word,
      { startSeconds: 0, lengthSeconds: 0.08, anchorSeconds: 0.02 },
    ]),
  ),
};

const ODD = proofWith(
  { meter: '4/4', tempo: [{ tempo: 'quarter = 97' }] },
  {},
  { meter: '7/8 as 2+2+3' },
  { meter: '3/4', tempo: [{ tempo: 'quarter = 80' }] },
  {},
);

function soundsOfPiece(extent: SoundExtent, wishes: SoundWishes): PlacedSounds {
  const sounds = paperSounds(ODD, extent, wishes);
  if (!sounds.ok) throw new Error(sounds.problem.message);
  return sounds.value;
}

async function fileOf(sounds: PlacedSounds, wishes: SoundWishes): Promise<Uint8Array> {
  const track = soundTrack(sounds, wishes, wishes.spoken === 'nothing' ? {} : { words: WORDS });
  if (!track.ok) throw new Error(track.problem.message);
  const file = await soundFile(track.value, wishes);
  const bytes = joined(file.parts);
  expect(bytes).toHaveLength(file.lengthBytes);
  return bytes;
}

/** What a decoder of somebody else's makes of a file. */
async function decoded(bytes: Uint8Array, format: SoundWishes['format']): Promise<readonly Float32Array[]> {
  if (format === 'wav') {
    const file = new wavefile.WaveFile(bytes);
    const whole = [file.getSamples(false) as unknown].flat() as ReadonlyArray<ArrayLike<number>>;
    const channels = typeof whole[0] === 'number' ? [whole as unknown as ArrayLike<number>] : whole;
    return channels.map((samples) => Float32Array.from(samples, (sample) => sample / 32_767));
  }
  const decoder = format === 'flac' ? new FLACDecoder() : new MPEGDecoder({ enableGapless: true });
  await decoder.ready;
  const { channelData, errors } =
    decoder instanceof MPEGDecoder ? decoder.decode(bytes) : await decoder.decodeFile(bytes);
  expect(errors).toEqual([]);
  decoder.free();
  return channelData;
}

/** Where sound begins after silence. */
function onsetsIn(samples: Float32Array, threshold = 0.1): readonly number[] {
  const onsets: number[] = [];
  let quietSince = -Infinity;
  let isQuiet = true;
  samples.forEach((sample, at) => {
    if (Math.abs(sample) > threshold) {
      if (isQuiet) onsets.push(at);
      isQuiet = false;
      quietSince = at;
    } else if (at - quietSince > 4000) isQuiet = true;
  });
  return onsets;
}

const timesOf = ({ sounds }: PlacedSounds) =>
  sounds.clicksIn({ fromSeconds: -Infinity, toSeconds: Infinity }).map(({ timeSeconds }) => timeSeconds);

describe('sound files, read by other programs', () => {
  test.each(['wav', 'flac', 'mp3'] as const)('%s: every click is where it should be', async (format) => {
    const wishes = { ...WISHES, format };
    const sounds = soundsOfPiece({ kind: 'piece' }, wishes);
    const [samples = new Float32Array()] = await decoded(await fileOf(sounds, wishes), format);
    const onsets = onsetsIn(samples);
    const times = timesOf(sounds);
    expect(onsets).toHaveLength(times.length);
    times.forEach((seconds, index) =>
      expect(Math.abs((onsets[index] ?? 0) / 44_100 - seconds)).toBeLessThan(0.001),
    );
    const expected = Math.ceil((sounds.sounds.lengthSeconds + 0.5) * 44_100);
    // This reader of FLAC leaves out a last block that is short and silent; the browsers do not (files.spec.ts).
    if (format === 'flac') expect(expected - samples.length).toBeLessThan(4096);
    else expect(samples).toHaveLength(expected);
  });

  test('FLAC loses nothing: the samples of the WAV', async () => {
    const sounds = soundsOfPiece({ kind: 'piece' }, WISHES);
    const [[wav], [flac]] = [
      await decoded(await fileOf(sounds, WISHES), 'wav'),
      await decoded(await fileOf(sounds, { ...WISHES, format: 'flac' }), 'flac'),
    ];
    expect(wav!.length - flac!.length).toBeLessThan(4096);
    // The one decoder takes 32768 for full scale, the other 32767.
    flac!.forEach((sample, at) => {
      if (Math.abs(sample - wav![at]!) > 1 / 16_000) throw new Error(`sample ${at} differs`);
    });
  });

  test.each(['flac', 'mp3', 'wav'] as const)(
    '%s for a desk: all clicks left, only words right',
    async (format) => {
      const wishes = { ...WISHES, format, spoken: 'everything', channels: 'click and words' } as const;
      const sounds = soundsOfPiece({ kind: 'piece' }, wishes);
      const [left, right] = await decoded(await fileOf(sounds, wishes), format);
      const said = sounds.sounds
        .clicksIn({ fromSeconds: 0, toSeconds: Infinity })
        .filter(({ word }) => word !== undefined && word in WORDS.index);
      expect(onsetsIn(left!)).toHaveLength(timesOf(sounds).length);
      // A word sounds before the beat its vowel falls on.
      const words = onsetsIn(right!);
      const begins = said.map(({ timeSeconds }) => timeSeconds - 0.02).filter((seconds) => seconds > 0);
      expect(words.length).toBeGreaterThanOrEqual(begins.length);
      for (const seconds of begins)
        expect(Math.min(...words.map((at) => Math.abs(at / 44_100 - seconds)))).toBeLessThan(0.002);
    },
  );
});

describe('what is in a file', () => {
  test('the count-off alone is its clicks and ends before the music', () => {
    const whole = timesOf(soundsOfPiece({ kind: 'piece' }, WISHES));
    const { sounds } = soundsOfPiece({ kind: 'count-off' }, WISHES);
    const alone = timesOf({ sounds, places: [] });
    expect(alone.length).toBeGreaterThan(1);
    expect(whole.slice(0, alone.length)).toEqual(alone);
    expect(whole[alone.length]).toBeCloseTo(sounds.lengthSeconds, 9);
  });

  test('pieces in a row have their pause between, and their places keep their bars', () => {
    const one = soundsOfPiece({ kind: 'piece' }, WISHES);
    const both = inARow([one, one], 7);
    expect(both.sounds.lengthSeconds).toBeCloseTo(2 * one.sounds.lengthSeconds + 7, 9);
    const second = one.sounds.lengthSeconds + 7;
    const expected = [...timesOf(one), ...timesOf(one).map((seconds) => seconds + second)];
    expect(timesOf(both)).toHaveLength(expected.length);
    timesOf(both).forEach((seconds, index) => expect(seconds).toBeCloseTo(expected[index]!, 9));
    expect(both.places.map(({ label }) => label)).toEqual(
      [...one.places, ...one.places].map(({ label }) => label),
    );
    expect(both.places[one.places.length]?.seconds).toBeCloseTo(second + one.places[0]!.seconds, 9);
  });

  test('a drill goes round as often as it is wanted, a ladder climbs through its rungs', () => {
    const place = seamPlace(ODD.compiled, 2);
    const drill = soundsOfPiece({ kind: 'drill', place, rounds: 3 }, WISHES);
    const bars = drill.places.map(({ label }) => label);
    expect(bars).toEqual([...bars.slice(0, 4), ...bars.slice(0, 4), ...bars.slice(0, 4)]);
    const rungs = ladderOf(ODD, place, PLAIN_LADDER, PLAIN_DRILL);
    const ladder = soundsOfPiece({ kind: 'ladder', place, rounds: 1, rungs }, WISHES);
    expect(ladder.sounds.lengthSeconds).toBeGreaterThan(rungs.length * 4);
    expect(Number.isFinite(ladder.sounds.lengthSeconds)).toBe(true);
  });

  test.each([
    [{ format: 'mp3', sampleRate: 96_000 }, /48000/],
    [{ channels: 'click and words' }, /has to be said/],
    [{ percent: 0.001 }, /hours/],
  ] as const)('%j is refused', (changes, reason) => {
    const wishes = { ...WISHES, ...changes } as SoundWishes;
    const track = soundTrack(soundsOfPiece({ kind: 'piece' }, wishes), wishes);
    expect(track.ok ? '' : track.problem.message).toMatch(reason);
  });
});
