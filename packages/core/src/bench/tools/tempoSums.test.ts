import { expect, test } from '@jest/globals';
import { toNumber } from '../../fraction/fraction.ts';
import { parseDurationMaybe } from './tempoSums.ts';

test('lengths of time are read as people write them', () => {
  expect(
    ['2:40', '160', '160 s', '2:40.5', '0:07'].map((text) => toNumber(parseDurationMaybe(text)!)),
  ).toEqual([160, 160, 160, 160.5, 7]);
  expect(['2:70', 'x', '', '-3'].map(parseDurationMaybe)).toEqual([null, null, null, null]);
});
