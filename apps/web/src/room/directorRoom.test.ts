import { beforeEach, describe, expect, test } from '@jest/globals';
import {
  commandOf,
  EMPTY_ROOM,
  PLAIN_RUN,
  proofOf,
  readPiece,
  UNKNOWN_CLOCK,
  type RoomRun,
  type RunSettings,
} from '@anchorbeat/core';
import type { RoomResponse } from '@anchorbeat/contract';
import { Playback } from '../sound/playback.ts';
import { opened } from '../store/pieceSlice.ts';
import { createStore, type AppStore } from '../store/store.ts';
import { withoutServer } from '../test/noServer.ts';
import { SimulatedDevice, simulatedPorts } from '../test/simulatedDevice.ts';
import { DirectorRoom, type DirectorLine, type WantedRun } from './directorRoom.ts';
import type { RoomView } from './roomLink.ts';

withoutServer();

const reading = readPiece({
  format: 'anchorbeat-piece',
  version: 1,
  title: 'T',
  bars: [{ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }, {}, {}],
});
if (!reading.ok) throw new Error('the test piece does not read');
const proof = proofOf(reading.piece);
const START_MS = 6000;
/** Each test has a piece of its own: how a piece is run is kept with it. */
let pieces = 0;
const within = (standardErrorMs: number) => ({ clock: { ...UNKNOWN_CLOCK, standardErrorMs } });

/** Everything that can be gone on with at once is. */
const settled = () => new Promise((resolve) => setTimeout(resolve));

describe('a run that is given to a rehearsal', () => {
  let nowMs: number;
  let said: string[];
  let show: (changes: Partial<RoomView>) => void;
  let device: SimulatedDevice;
  let playback: Playback;
  let store: AppStore;
  /** The answers that are still to be given to what was said, in order. */
  let answers: Array<(answer: { ok: true; value: null } | { ok: false; detail: string }) => void>;
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
        if (event === 'say') return new Promise((resolve) => void answers.push(resolve));
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
    store = createStore();
    answers = [];
    const { ports } = simulatedPorts(device);
    playback = new Playback(store, ports, undefined, room, (words) => (trouble = words));
    store.dispatch(opened({ id: `piece ${++pieces}`, ensembleId: 'e', revision: 1, piece: proof.piece }));
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

  test('is not given to it from a plan of the piece as it was before it changed', async () => {
    show(within(3));
    const changed = { ...proof.piece };
    store.dispatch(opened({ id: `piece ${++pieces}`, ensembleId: 'e', revision: 2, piece: changed }));
    await countIn();
    expect([said, playback.isRunning, trouble]).toEqual([
      [],
      false,
      expect.stringMatching(/has changed just now/),
    ]);
  });

  test('is joined only with the very piece that is run', () => {
    show(within(3));
    const run = {
      id: 'theirs',
      pieceId: `piece ${pieces}`,
      revision: 1,
      title: '',
      startServerMs: room.serverNowMs(),
    };
    const session: RoomRun['session'] = {
      settings: PLAIN_RUN,
      commands: [{ kind: 'start', performed: 0, call: null }],
    };
    show({ room: { ...EMPTY_ROOM, run: { ...run, session } } });
    playback.join({ ...proof, piece: { ...proof.piece } });
    expect(playback.isRunning).toBe(false);
    playback.join(proof);
    expect(playback.isRunning).toBe(true);
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

  /** The room has what somebody said to the run. */
  const roomHas = (settings: Partial<RunSettings>) => {
    const run = room.run!;
    const command = commandOf({ kind: 'change', settings, every: 'beat' }, 3);
    const session = { ...run.session, commands: [...run.session.commands, command] };
    show({ room: { ...EMPTY_ROOM, run: { ...run, session } } });
  };
  /** How the run is shown to be wanted, and how this page wants its next one. */
  const percents = () => {
    const { run, settings } = store.getState().transport;
    return [run?.settings.percent, settings.percent];
  };

  test('follows what another who leads says to it, and shows that; this page’s next run is its own', async () => {
    show(within(3));
    await countIn();
    roomHas({ percent: 80, clickOn: 'downbeats' });
    expect(percents()).toEqual([80, 100]);
    playback.want({ percent: 85 });
    await settled();
    roomHas({ percent: 85 });
    answers[0]?.({ ok: true, value: null });
    await settled();
    expect([percents(), store.getState().transport.run?.settings.clickOn]).toEqual([[85, 85], 'downbeats']);
  });

  test('is not shown otherwise than it is: what was refused is no longer wanted', async () => {
    show(within(3));
    await countIn();
    playback.want({ percent: 90 });
    expect(percents()).toEqual([90, 90]);
    await settled();
    answers[0]?.({ ok: false, detail: 'the director leads' });
    await settled();
    expect([percents(), trouble]).toEqual([[100, 100], 'the director leads']);
  });

  test('shows what was said last also while what was said before is answered', async () => {
    show(within(3));
    await countIn();
    for (const percent of [95, 90, 85]) playback.want({ percent });
    await settled();
    roomHas({ percent: 95 });
    answers[0]?.({ ok: true, value: null });
    await settled();
    expect(percents()).toEqual([85, 85]);
    roomHas({ percent: 85 });
    answers[1]?.({ ok: true, value: null });
    await settled();
    expect([percents(), answers.length]).toEqual([[85, 85], 2]);
  });

  test('is refused, not waited for, where the line is lost', async () => {
    await countIn();
    show({ connection: 'lost' });
    await settled();
    expect([trouble, playback.isRunning]).toEqual(['nobody answers', false]);
  });
});
