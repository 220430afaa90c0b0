import { afterAll, beforeEach, expect, jest, test } from '@jest/globals';
import { windowsByLocks } from './windows.ts';

/** Locks as a browser has them, of which a test lets go as a page that is gone does. */
function simulatedLocks() {
  const held = new Map<string, () => void>();
  const waiting: { readonly name: string; readonly take: () => void }[] = [];
  const take = (name: string, callback: (lock: Lock) => unknown) => {
    held.set(name, () => {
      held.delete(name);
      waiting
        .splice(0)
        .filter((one) => one.name === name)
        .forEach((one) => one.take());
    });
    callback({ name, mode: 'exclusive' });
  };
  return {
    letGo: (name: string) => held.get(name)?.(),
    waitingFor: () => waiting.map(({ name }) => name),
    request: ((
      name: string,
      { signal }: { readonly signal: AbortSignal },
      callback: (lock: Lock) => unknown,
    ) =>
      new Promise<void>((_resolve, reject) => {
        signal.addEventListener('abort', () => reject(signal.reason as Error));
        if (held.has(name)) waiting.push({ name, take: () => take(name, callback) });
        else take(name, callback);
      })) as unknown as LockManager['request'],
    query: () =>
      Promise.resolve({ held: [...held.keys()].map((name) => ({ name, mode: 'exclusive' as const })) }),
  };
}

const stored = new Map<string, string>();
beforeEach(() => {
  stored.clear();
  Object.assign(globalThis, {
    sessionStorage: {
      getItem: (key: string) => stored.get(key) ?? null,
      setItem: (key: string, value: string) => stored.set(key, value),
    },
  });
});
afterAll(() => {
  Reflect.deleteProperty(globalThis, 'sessionStorage');
});

test('a page that is loaded again goes by its name though the page it was lets go of it only later', async () => {
  const locks = simulatedLocks();
  const name = await windowsByLocks(locks).own;
  const again = windowsByLocks(locks).own;
  expect(locks.waitingFor()).toEqual([`anchorbeat.window.${name}`]);
  locks.letGo(`anchorbeat.window.${name}`);
  expect(await again).toBe(name);
});

test('a page that was duplicated gets a name of its own, and each knows that the other is there', async () => {
  const locks = simulatedLocks();
  const first = windowsByLocks(locks);
  const name = await first.own;
  // No page lets go of its name by being looked at.
  const timeUp = jest.spyOn(AbortSignal, 'timeout').mockImplementation(() => {
    const stops = new AbortController();
    queueMicrotask(() => stops.abort(new DOMException('too late', 'TimeoutError')));
    return stops.signal;
  });
  const second = windowsByLocks(locks);
  const other = await second.own;
  timeUp.mockRestore();
  expect(other).not.toBe(name);
  expect(await first.present([name, other, 'gone'])).toEqual(new Set([name, other]));
});
