import { expect, test } from '@jest/globals';
import { actOfKeyMaybe, keyOfAct, PODIUM_ACT_NAMES, withKey, type OwnKeys } from './acts.ts';
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
