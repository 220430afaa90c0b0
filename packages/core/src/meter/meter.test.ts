import { expect, test } from '@jest/globals';
import { expectValue } from '../problem/problem.ts';
import { meterLength } from './meter.ts';
import { formatMeter, meterSign, parseMeter } from './text.ts';

test.each([
  ['4/4', '4/4', 1, 1],
  ['7/8', '7/8', 7, 8],
  ['2+2+3/8', '(2+2+3)/8', 7, 8],
  ['(2 + 2 + 3) / 8', '(2+2+3)/8', 7, 8],
  ['7/8 as 2+2+3', '7/8 as 2+2+3', 7, 8],
  ['7/8 2+2+3', '7/8 as 2+2+3', 7, 8],
  ['7/8 (3+2+2)', '7/8 as 3+2+2', 7, 8],
  ['3/4+3/8', '3/4+3/8', 9, 8],
  ['2+3/8+2/4', '(2+3)/8+2/4', 9, 8],
  ['7/16 as (2+2+3)+2/4', '7/16 as (2+2+3)+2/4', 15, 16],
  ['15/16 as 4+4+4+3', '15/16 as 4+4+4+3', 15, 16],
  ['4/4 as 3+3+2', '4/4 as 3+3+2', 1, 1],
  ['3/4 as 3+3', '3/4 as 3+3', 3, 4],
  ['2/2 as 3+3+2', '2/2 as 3+3+2', 1, 1],
  ['C', '4/4', 1, 1],
  ['C|', '2/2', 1, 1],
  ['128/4', '128/4', 32, 1],
  ['4/3', '4/3', 4, 3],
])('%s reads as %s', (text, canonical, n, d) => {
  const meter = expectValue(parseMeter(text));
  expect(formatMeter(meter)).toBe(canonical);
  expect(meterLength(meter)).toEqual({ n, d });
  expect(parseMeter(canonical)).toEqual({ ok: true, value: meter });
});

test.each([
  ['7/0', 'no unit'],
  ['0/4', 'group of 0'],
  ['7/8 as 2+2+2', 'makes 6, but 7/8 has 7: 1 too few'],
  ['5/8 3+3', '1 too many'],
  ['200/4', 'more than 128'],
  ['4/1000', 'finer than 128'],
  ['four four', 'is not a meter'],
  ['', 'is not a meter'],
  ['3/4+', 'is not a meter'],
  ['-3/4', 'is not a meter'],
])('%s is refused: %s', (text, reason) => {
  const result = parseMeter(text);
  expect(result.ok || result.problem.message).toContain(reason);
});

test('what is printed', () => {
  const signOf = (text: string) => meterSign(expectValue(parseMeter(text)));
  expect(signOf('(2+2+3)/8')).toEqual([{ top: '2+2+3', bottom: '8' }]);
  expect(signOf('7/8 as 2+2+3')).toEqual([{ top: '7', bottom: '8' }]);
  expect(signOf('3/4+3/8')).toHaveLength(2);
  expect(signOf('4/4 as 3+3+2')).toEqual([{ top: '4', bottom: '4' }]);
});
