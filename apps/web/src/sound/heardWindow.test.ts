import { expect, test } from '@jest/globals';
import { HeardWindow, type SoundingWindow } from './heardWindow.ts';

/** Windows of one browser: what one says all others hear. */
function browserOf() {
  const windows: { readonly id: string; readonly hear: (said: SoundingWindow) => void }[] = [];
  return (id: string) =>
    new HeardWindow(
      id,
      {
        post: (said) => windows.filter((other) => other.id !== id).forEach(({ hear }) => hear(said)),
        onSaid: (hear) => void windows.push({ id, hear }),
      },
      () => undefined,
    );
}

test('of several windows in one run the one last touched is heard, and the next one when it goes', () => {
  const open = browserOf();
  const [left, right] = [open('left'), open('right')];
  const heard = () => [left.isHeard, right.isHeard];
  left.touch(1000);
  left.sound('a run');
  expect(heard()).toEqual([true, true]);
  right.sound('a run');
  expect(heard()).toEqual([true, false]);
  right.touch(2000);
  expect(heard()).toEqual([false, true]);
  left.touch(3000);
  expect(heard()).toEqual([true, false]);
  // A third that was opened meanwhile, and is not touched, is told who is heard.
  const third = open('third');
  third.sound('a run');
  expect([...heard(), third.isHeard]).toEqual([true, false, false]);
  left.sound(null);
  expect([...heard(), third.isHeard]).toEqual([true, true, false]);
  right.sound(null);
  expect(third.isHeard).toBe(true);
});

test('two windows that nobody has touched do not both sound, nor do they both keep still', () => {
  const open = browserOf();
  const windows = [open('b'), open('a'), open('c')];
  for (const one of windows) one.sound('a run');
  expect(windows.map(({ isHeard }) => isHeard)).toEqual([false, true, false]);
});

test('windows in runs of their own are all heard', () => {
  const open = browserOf();
  const [left, right] = [open('left'), open('right')];
  left.touch(1000);
  left.sound('one');
  right.sound('another');
  expect([left.isHeard, right.isHeard]).toEqual([true, true]);
  right.sound('one');
  expect([left.isHeard, right.isHeard]).toEqual([true, false]);
});
