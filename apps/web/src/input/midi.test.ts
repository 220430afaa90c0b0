import { expect, test } from '@jest/globals';
import { midiKeyMaybe } from './midi.ts';

test.each([
  [[0x90, 38, 100], 'pad 38'],
  [[0x99, 36, 1], 'pad 36'],
  [[0x90, 38, 0], null],
  [[0x80, 38, 64], null],
  [[0xb0, 64, 127], 'pedal 64'],
  [[0xb3, 67, 63], null],
  [[0xf8], null],
])('the MIDI message %j presses %s', (data, key) => {
  expect(midiKeyMaybe(data)).toBe(key);
});
