import { describe, expect, test } from '@jest/globals';
import { formatFraction } from '../fraction/text.ts';
import { expectValue } from '../problem/problem.ts';
import { meterForLengthMaybe, missingFrom, rhythmLength, rhythmOnsets } from './rhythm.ts';
import { formatRhythm, parseRhythm } from './text.ts';

const rhythm = (text: string) => expectValue(parseRhythm(text));

describe('a bar’s rhythm', () => {
  test.each([
    ['q q q q', '1', '0 1/4 1/2 3/4'],
    ['q. e h', '1', '0 3/8 1/2'],
    ['rq e e rh', '1', '1/4 3/8'],
    ['e3 e3 e3 q', '1/2', '0 1/12 1/6 1/4'],
    ['h~ q q', '1', '0 3/4'],
    ['s5 s5 s5 s5 s5', '1/4', '0 1/20 1/10 3/20 1/5'],
    ['[7:5 sixteenth] rq..', '27/56', '0'],
  ])('%s lasts %s, with notes at %s', (text, length, onsets) => {
    expect(formatFraction(rhythmLength(rhythm(text)))).toBe(length);
    expect(rhythmOnsets(rhythm(text)).map(formatFraction).join(' ')).toBe(onsets);
    expect(parseRhythm(formatRhythm(rhythm(text)))).toEqual({ ok: true, value: rhythm(text) });
  });

  test('a note tied over the barline does not sound again', () => {
    expect(rhythmOnsets(rhythm('q q'), true).map(formatFraction)).toEqual(['1/4']);
  });

  test.each([
    ['', 'Write the notes'],
    ['q z q', 'Note 2, "z"'],
    ['q rq~', 'Note 2, "rq~"'],
    ['[nonsense]', 'Note 1'],
  ])('"%s" is refused', (text, reason) => {
    const result = parseRhythm(text);
    expect(result.ok || result.problem.message).toContain(reason);
  });

  test('what is missing, and which meter would fit', () => {
    expect(missingFrom({ n: 1, d: 1 }, rhythm('q q e'))).toEqual({ n: 3, d: 8 });
    expect(meterForLengthMaybe({ n: 9, d: 16 }, 8)).toEqual({ count: 9, unit: 16 });
    expect(meterForLengthMaybe({ n: 3, d: 4 }, 8)).toEqual({ count: 6, unit: 8 });
    expect(meterForLengthMaybe({ n: 1, d: 12 }, 4)).toBeNull();
  });
});
