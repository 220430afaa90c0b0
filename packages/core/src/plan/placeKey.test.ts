import { expect, test } from '@jest/globals';
import { movedKeyMaybe, placeKey } from './placeKey.ts';

test.each([
  ['p:4', 'p:6'],
  ['p:3+4', 'p:6'],
  ['p:1+2', 'p:1+4'],
  ['p:3', null],
  ['p:9', null],
  ['q:4', 'q:4'],
  ['p:whole', 'p:whole'],
  ['pp:4', 'pp:4'],
  ['warm-up', 'warm-up'],
])('%s goes with its bars: %s', (key, now) => {
  expect(movedKeyMaybe(key, 'p', [0, 1, 4, null, 6])).toBe(now);
});

test('a key has the bars of all its seams', () => expect(placeKey('p', [3, 5])).toBe('p:3+5'));
