import { expect, test } from '@jest/globals';
import { FADES, fadeName, nextFade } from './fades.ts';

test('one key goes through every way to fade, and round again', () => {
  let fade = FADES[0]!.fade;
  const names = FADES.map(() => {
    fade = nextFade(fade);
    return fadeName(fade);
  });
  expect(names.at(-1)).toBe('');
  expect(new Set(names).size).toBe(FADES.length);
});
