import { beforeEach, describe, expect, test } from '@jest/globals';
import { PLAIN_RUN, UNKNOWN_CLOCK, type RoomRun } from '@anchorbeat/core';
import type { RoomResponse } from '@anchorbeat/contract';
import { DirectorRoom, type DirectorLine, type WantedRun } from './directorRoom.ts';
import type { RoomView } from './roomLink.ts';

const wanted: WantedRun = {
  runId: 'run 1',
  pieceId: 'piece',
  revision: 1,
  title: 'from bar 1',
  settings: PLAIN_RUN,
  performed: 0,
  call: null,
};
const rehearsal = { id: 'room 1' } as RoomResponse;
const within = (standardErrorMs: number) => ({ clock: { ...UNKNOWN_CLOCK, standardErrorMs } });

describe('a run that is given to a rehearsal', () => {
  let nowMs: number;
  let said: string[];
  let show: (changes: Partial<RoomView>) => void;
  let room: DirectorRoom;
  /** What has become of a run that was asked for, after everything that is known already was looked at. */
  const begun = (run: Promise<RoomRun>) =>
    Promise.race([
      run.then(
        ({ id }) => id,
        (error: Error) => error.message,
      ),
      new Promise((resolve) => setTimeout(resolve, 0, 'waits')),
    ]);

  beforeEach(async () => {
    nowMs = 0;
    said = [];
    let view = { connection: 'open', clock: UNKNOWN_CLOCK, over: null } as RoomView;
    let tell: () => void = () => undefined;
    show = (changes) => {
      view = { ...view, ...changes };
      tell();
    };
    const line: DirectorLine = {
      subscribe: (told) => {
        tell = told;
        return () => undefined;
      },
      get: () => view,
      say: (event) => {
        said.push(event);
        const isOpen = view.connection === 'open';
        if (isOpen) show({ room: { run: { id: wanted.runId } } as RoomView['room'] });
        return Promise.resolve(isOpen ? { ok: true, value: null } : { ok: false, detail: 'no answer' });
      },
      serverMsAt: (pageMs) => pageMs,
      pageMsAt: (serverMs) => serverMs,
      close: () => undefined,
    };
    room = new DirectorRoom(
      () => Promise.resolve(line),
      () => nowMs,
    );
    await room.enter(rehearsal);
    show({});
  });

  test('waits until this page knows the clock that all go by well enough to sound', async () => {
    const run = room.start(wanted);
    expect(await begun(run)).toBe('waits');
    show(within(12));
    expect(await begun(run)).toBe('waits');
    expect([said, room.knowsClock]).toEqual([[], false]);
    show(within(3));
    expect(await begun(run)).toBe('run 1');
    expect([said, room.knowsClock]).toEqual([['start'], true]);
  });

  test('waits no longer for a network that never lets it be known so well, but never goes by nothing', async () => {
    const run = room.start(wanted);
    nowMs = 2500;
    show({});
    expect(await begun(run)).toBe('waits');
    show(within(12));
    expect(await begun(run)).toBe('run 1');
  });

  test('is refused, not waited for, where the line is lost', async () => {
    const run = room.start(wanted);
    show({ connection: 'lost' });
    expect(await begun(run)).toBe('no answer');
  });
});
