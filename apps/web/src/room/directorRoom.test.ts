import { beforeEach, describe, expect, test } from '@jest/globals';
import { proofOf, readPiece, UNKNOWN_CLOCK, type RoomRun } from '@anchorbeat/core';
import type { RoomResponse } from '@anchorbeat/contract';
import { Playback } from '../sound/playback.ts';
import { opened } from '../store/pieceSlice.ts';
import { createStore } from '../store/store.ts';
import { SimulatedDevice, simulatedPorts } from '../test/simulatedDevice.ts';
import { DirectorRoom, type DirectorLine, type WantedRun } from './directorRoom.ts';
import type { RoomView } from './roomLink.ts';

const reading = readPiece({
  format: 'anchorbeat-piece',
  version: 1,
  title: 'T',
  bars: [{ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }, {}, {}],
});
if (!reading.ok) throw new Error('the test piece does not read');
const proof = proofOf(reading.piece);
const START_MS = 6000;
const within = (standardErrorMs: number) => ({ clock: { ...UNKNOWN_CLOCK, standardErrorMs } });

/** Everything that can be gone on with at once is. */
const settled = () => new Promise((resolve) => setTimeout(resolve));

describe('a run that is given to a rehearsal', () => {
  let nowMs: number;
  let said: string[];
  let show: (changes: Partial<RoomView>) => void;
  let device: SimulatedDevice;
  let playback: Playback;
  let trouble: string | null;
  let room: DirectorRoom;
  let endPause: () => void;
  const countIn = () => {
    const run = playback.countIn(proof, 0, { subject: { kind: 'piece' } });
    run.catch((error: Error) => (trouble = error.message));
    return settled();
  };

  beforeEach(async () => {
    nowMs = 0;
    said = [];
    trouble = null;
    let view = { connection: 'open', clock: UNKNOWN_CLOCK, over: null } as RoomView;
    let tell: () => void = () => undefined;
    show = (changes) => {
      view = { ...view, ...changes };
      tell();
    };
    const begin = ({ runId, settings, ...wanted }: WantedRun): RoomRun => ({
      ...wanted,
      id: runId,
      startServerMs: START_MS,
      session: { settings, commands: [{ kind: 'start', performed: 0, call: null }] },
    });
    const line: DirectorLine = {
      subscribe: (told) => {
        tell = told;
        return () => undefined;
      },
      get: () => view,
      say: (event, message) => {
        if (view.connection !== 'open') return Promise.resolve({ ok: false, detail: 'nobody answers' });
        said.push(event);
        if (event === 'start') show({ room: { run: begin(message as WantedRun) } as RoomView['room'] });
        return Promise.resolve({ ok: true, value: null });
      },
      serverMsAt: (pageMs) => pageMs,
      pageMsAt: (serverMs) => serverMs,
      close: () => undefined,
    };
    room = new DirectorRoom(
      () => Promise.resolve(line),
      () => nowMs,
      () => new Promise((resolve) => (endPause = resolve)),
    );
    device = new SimulatedDevice(5);
    const store = createStore();
    const { ports } = simulatedPorts(device);
    playback = new Playback(store, ports, undefined, room);
    store.dispatch(opened({ id: 'piece', ensembleId: 'e', revision: 1, piece: proof.piece }));
    await room.enter({ id: 'room 1' } as RoomResponse);
    show({});
  });

  test('waits until this page knows the clock that all go by well enough to sound', async () => {
    await countIn();
    show(within(12));
    await settled();
    expect([said, device.sounds]).toEqual([[], []]);
    show(within(3));
    await settled();
    expect(said).toEqual(['start']);
    expect(device.sounds[0]?.whenSeconds).toBeCloseTo(START_MS / 1000, 4);
  });

  test('waits no longer for a network that never lets it be known so well, but never goes by nothing', async () => {
    await countIn();
    nowMs = 2500;
    show({});
    await settled();
    expect(said).toEqual([]);
    show(within(12));
    await settled();
    expect(said).toEqual(['start']);
  });

  test('that was stopped before is given to nobody', async () => {
    await countIn();
    playback.stop();
    show(within(3));
    await settled();
    expect([said, playback.isRunning]).toEqual([[], false]);
  });

  test('is given to it by a page that was only just loaded, once its line stands', async () => {
    show({ connection: 'connecting', ...within(3) });
    await countIn();
    expect([said, device.sounds]).toEqual([[], []]);
    show({ connection: 'open' });
    await settled();
    expect(said).toEqual(['start']);
  });

  test('goes on alone where the line does not stand in time, or no rehearsal turns out to be open', async () => {
    show({ connection: 'connecting' });
    await countIn();
    endPause();
    await settled();
    expect([said, device.sounds.length > 0]).toEqual([[], true]);
    playback.stop();
    room.leave();
    room.setAsked(true);
    const before = device.sounds.length;
    await countIn();
    expect(device.sounds.length).toBe(before);
    room.setAsked(false);
    await settled();
    expect([said, device.sounds.length > before]).toEqual([[], true]);
  });

  test('is refused, not waited for, where the line is lost', async () => {
    await countIn();
    show({ connection: 'lost' });
    await settled();
    expect([trouble, playback.isRunning]).toEqual(['nobody answers', false]);
  });
});
