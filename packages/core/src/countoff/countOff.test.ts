import { describe, expect, test } from '@jest/globals';
import { compilePiece } from '../compile/compile.ts';
import { toNumber } from '../fraction/fraction.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { countOffFor } from './countOff.ts';
import { chordTonesNear, formatPitch, parseKeyMaybe, parsePitch } from './pitch.ts';
import { PLAIN_COUNT_OFF, type CountOffSettings } from './settings.ts';

const at = (bar: object, settings: Partial<CountOffSettings>, key?: string) => {
  const piece = {
    ...pieceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }], ...bar }, {}),
    ...(key && { key }),
  };
  return countOffFor(piece, compilePiece(piece).timeline, 0, { ...PLAIN_COUNT_OFF, ...settings });
};
const said = (bar: object, settings: Partial<CountOffSettings>) =>
  at(bar, settings)
    .beats.map((beat) => (beat.sound === 'silent' ? '–' : beat.word))
    .join(' ');

describe('ways to count off (design.md, Schools)', () => {
  test.each<[string, object, Partial<CountOffSettings>, string]>([
    ['two plain bars', {}, { bars: 2 }, '1 2 3 4 1 2 3 4'],
    ['ready, go', {}, { style: 'ready-go' }, '1 2 ready go'],
    ['half time, then full', {}, { bars: 2, style: 'half-time-first' }, '1 – 2 – 1 2 3 4'],
    ['half time needs two bars', {}, { style: 'half-time-first' }, '1 2 3 4'],
    ['subdivisions in the second bar', {}, { bars: 2, style: 'subdivided-last' }, '1 2 3 4 1 & 2 & 3 & 4 &'],
    [
      'subdivisions in compound time',
      { meter: '6/8', tempo: [] },
      { style: 'subdivided-last' },
      '1 2 3 2 2 3',
    ],
    ['a breath on the last beat', {}, { breathOnLastBeat: true }, '1 2 3 –'],
    [
      'a breath over the last subdivisions',
      {},
      { style: 'subdivided-last', breathOnLastBeat: true },
      '1 & 2 & 3 & – –',
    ],
    ['the bar’s number as cue word', {}, { cueWord: '24' }, '1 2 3 24'],
    ['only the preparatory beat', {}, { style: 'preparatory-beat' }, '– – – –'],
    ['running into a pickup', { pickup: '1/4' }, { style: 'ready-go' }, '1 2 3 4 1 ready go'],
    ['no full bar, only what completes the pickup', { pickup: '1/4' }, { bars: 0 }, '1 2 3'],
    ['an odd bar in its groups', { meter: '7/8 as 2+2+3' }, { school: 'plain' }, '1 2 3'],
    ['in the director’s own pulse', { meter: '6/8', pulse: 'in 6', tempo: [] }, {}, '1 2 3 4 5 6'],
  ])('%s', (_name, bar, settings, expected) => {
    expect(said(bar, settings)).toBe(expected);
  });

  test('under a cue word the beat keeps its own count, for a voice that has no such word', () => {
    const { beats } = at({}, { cueWord: 'Coda' });
    expect(beats.map(({ word, ownWord = null }) => [word, ownWord])).toEqual([
      ['1', null],
      ['2', null],
      ['3', null],
      ['Coda', '4'],
    ]);
  });

  test('beats follow each other without a gap into the entry', () => {
    for (const style of ['plain', 'ready-go', 'half-time-first', 'subdivided-last', 'rhythmic-pitch']) {
      const { beats, lengthSeconds } = at({ meter: '7/8 as 2+2+3', pickup: '1/8' }, { bars: 2, style });
      beats.forEach((beat, index) => {
        const next = beats[index + 1]?.timeSeconds ?? lengthSeconds;
        expect(beat.timeSeconds + beat.lengthSeconds).toBeCloseTo(next, 12);
      });
    }
  });

  test('inside a ramp it is counted at the tempo just there', () => {
    const piece = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 120', ramp: 'to quarter = 60' }] },
      {},
      { tempo: [{ endsRamp: true }] },
    );
    const { rate } = countOffFor(piece, compilePiece(piece).timeline, 1);
    expect(toNumber(rate) * 4).toBeCloseTo(90, 8);
  });
});

describe('on chord tones', () => {
  test.each([
    ['D minor', 62, [62, 65, 57]],
    ['B♭ major', 70, [70, 74, 65]],
    ['F#', 66, [66, 70, 61]],
    [null, null, [64, 67, 60]],
  ])('%s near %s', (key, note, tones) => {
    expect(chordTonesNear(key, note)).toEqual(tones);
  });

  test('long, short, short, and home to the tone nearest the first note', () => {
    const { beats } = at({}, { style: 'rhythmic-pitch', firstNote: 62 }, 'D minor');
    expect(beats.map((beat) => `${beat.lengthSeconds}:${beat.pitch}`)).toEqual([
      '0.5:62',
      '0.25:65',
      '0.25:57',
      '0.5:62',
      '0.25:65',
      '0.25:62',
    ]);
  });

  test.each(['H major', 'sol', '', 'C# dorian'])('"%s" is no key', (text) => {
    expect(parseKeyMaybe(text)).toBeNull();
  });
});

describe('a pitch by name', () => {
  test.each([
    ['C4', 60],
    ['f4', 65],
    ['B♭3', 58],
    ['Bb3', 58],
    ['b3', 59],
    ['C#5', 73],
    ['C-1', 0],
    ['G9', 127],
  ])('%s is MIDI note %i', (text, midi) => {
    expect(parsePitch(text)).toEqual({ ok: true, value: midi });
  });

  test.each(['H4', 'C', 'G#9', 'Cb-1', '', '60'])('"%s" is refused', (text) => {
    expect(parsePitch(text).ok).toBe(false);
  });

  test('every MIDI note has a name that reads back', () => {
    for (let midi = 0; midi < 128; midi++)
      expect(parsePitch(formatPitch(midi))).toEqual({ ok: true, value: midi });
  });
});
