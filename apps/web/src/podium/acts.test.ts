import { expect, test } from '@jest/globals';
import { actOfKeyMaybe, keyOfAct, PODIUM_ACT_NAMES, withKey, type OwnKeys } from './acts.ts';
import { midiKeyMaybe } from './useMidiKeys.ts';
import { FADES, fadeName, nextFade } from './fades.ts';

test('every act has a key of its own, also after any keys were exchanged', () => {
  let own: OwnKeys = {};
  const all = () => PODIUM_ACT_NAMES.map((act) => keyOfAct(act, own));
  expect(new Set(all()).size).toBe(PODIUM_ACT_NAMES.length);
  let seed = 11;
  const below = (limit: number) => (seed = (seed * 48271) % 2147483647) % limit;
  for (let step = 0; step < 300; step++) {
    const act = PODIUM_ACT_NAMES[below(PODIUM_ACT_NAMES.length)]!;
    const key = below(3) ? all()[below(PODIUM_ACT_NAMES.length)]! : `F${below(12)}`;
    own = withKey(own, act, key);
    expect(keyOfAct(act, own)).toBe(key);
    expect(new Set(all()).size).toBe(PODIUM_ACT_NAMES.length);
    for (const name of PODIUM_ACT_NAMES) expect(actOfKeyMaybe(keyOfAct(name, own), own)).toBe(name);
  }
});

test('one key goes through every way to fade, and round again', () => {
  let fade = FADES[0]!.fade;
  const names = FADES.map(() => {
    fade = nextFade(fade);
    return fadeName(fade);
  });
  expect(names.at(-1)).toBe('');
  expect(new Set(names).size).toBe(FADES.length);
});

test('pedals act without being taught; taught otherwise, they do that', () => {
  expect([actOfKeyMaybe('pedal 64', {}), actOfKeyMaybe('pedal 67', {}), actOfKeyMaybe('pad 38', {})]).toEqual(
    ['run', 'cue', null],
  );
  const own = withKey(withKey({}, 'loop', 'pedal 64'), 'again', 'pad 38');
  expect([actOfKeyMaybe('pedal 64', own), actOfKeyMaybe('pad 38', own), actOfKeyMaybe(' ', own)]).toEqual([
    'loop',
    'again',
    'run',
  ]);
});

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
