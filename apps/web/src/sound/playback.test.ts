import { beforeEach, describe, expect, test } from '@jest/globals';
import {
  allClicks,
  listedSounds,
  PLAIN_RUN,
  proofOf,
  readPiece,
  runFrom,
  seamPlace,
  type BarDocument,
  type Proof,
} from '@anchorbeat/core';
import type { RunResponse } from '@anchorbeat/contract';
import { opened } from '../store/pieceSlice.ts';
import { createStore, type AppStore } from '../store/store.ts';
import { runMarked, type DrillSubject } from '../store/transportSlice.ts';
import { withoutServer } from '../test/noServer.ts';
import { SimulatedDevice, simulatedPorts } from '../test/simulatedDevice.ts';
import { hearOneWindow, type SoundingWindow } from './heardWindow.ts';
import { Playback } from './playback.ts';

withoutServer();

const START_DELAY_SECONDS = 0.12;
/** Each test has a piece of its own: how a piece is run is kept with it. */
let pieces = 0;

/** Bars of two seconds; a count-off of one bar before each entry. */
function proofWith(...bars: readonly BarDocument[]): Proof {
  const [first, ...rest] = bars;
  const reading = readPiece({
    format: 'anchorbeat-piece',
    version: 1,
    title: 'T',
    bars: [{ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }], ...first }, ...rest],
  });
  if (!reading.ok) throw new Error('the test piece does not read');
  return proofOf(reading.piece);
}

const proof = proofWith({}, {}, {}, { meter: '7/8 as 2+2+3' }, {}, {});

describe('playback', () => {
  let device: SimulatedDevice;
  let store: AppStore;
  let playback: Playback;
  let pass: (seconds: number) => void;

  const transport = () => store.getState().transport;
  const logged = () => transport().lastLogged?.run as RunResponse;
  const piece = { subject: { kind: 'piece' } } as const;

  beforeEach(() => {
    device = new SimulatedDevice(5);
    store = createStore();
    const simulated = simulatedPorts(device);
    pass = simulated.pass;
    playback = new Playback(store, simulated.ports);
    store.dispatch(opened({ id: `piece ${++pieces}`, ensembleId: 'e', revision: 1, piece: proof.piece }));
  });

  test('hands over what the core plans, and tells what is heard, beat by beat', async () => {
    await playback.countIn(proof, 1, piece);
    expect(transport()).toMatchObject({
      status: 'starting',
      entryPerformed: 1,
      run: { id: 'run 1', ...piece },
    });
    pass(START_DELAY_SECONDS + 0.6);
    expect(transport()).toMatchObject({ status: 'countOff', beatIndex: 1 });
    pass(2);
    expect(transport()).toMatchObject({ status: 'running', performed: 1, beatIndex: 1 });
    pass(20);
    expect(transport()).toMatchObject({ status: 'stopped', run: null });
    expect(logged()).toMatchObject({ barIndex: 1, bars: proof.piece.bars.length - 1, mark: null });
    const clicks = allClicks(proof, runFrom(proof, 1));
    const start = 5 + START_DELAY_SECONDS;
    expect(device.heard().map(({ whenSeconds }) => Math.round((whenSeconds - start) * 44_100))).toEqual(
      clicks.map(({ timeSeconds }) => Math.round(timeSeconds * 44_100)),
    );
  });

  test('a run of the piece is logged once, with the bars that were heard whole, at the tempo it had', async () => {
    store.dispatch({ type: 'transport/settingsChanged', payload: { percent: 50 } });
    await playback.countIn(proof, 1, piece);
    pass(START_DELAY_SECONDS + 4 + 9);
    playback.stop();
    expect(logged()).toMatchObject({ id: 'run 1', placeKind: 'bars', barIndex: 1, label: '2', bars: 2 });
    expect(logged()).toMatchObject({ way: 'play', percent: 50, goalPercent: 100, bpm: 60, mark: null });
    expect(logged().lengthSeconds).toBeCloseTo(13, 3);
    const before = transport();
    playback.stop();
    expect(transport()).toBe(before);
  });

  test('a run came to its end where nobody stopped it, however little was left', async () => {
    const length = START_DELAY_SECONDS + 2 + 3 * 2 + (3 * 7) / 4;
    await playback.countIn(proof, 0, piece);
    pass(length - 0.05);
    expect(transport()).toMatchObject({ status: 'running', performed: 5, cameToEnd: false });
    playback.stop();
    expect(transport()).toMatchObject({ status: 'stopped', cameToEnd: false });
    await playback.countIn(proof, 0, piece);
    pass(length + 0.05);
    expect(transport()).toMatchObject({ status: 'stopped', cameToEnd: true });
    await playback.countIn(proof, 4, piece);
    expect(transport().cameToEnd).toBe(false);
    pass(START_DELAY_SECONDS + 2 + 1);
    playback.stopAtBarEnd();
    pass(2);
    expect(transport()).toMatchObject({ status: 'stopped', cameToEnd: false });
  });

  test('a run that never came to the end of a bar is not logged, unless it was marked', async () => {
    await playback.countIn(proof, 0, piece);
    pass(3.9);
    playback.stop();
    expect(transport().lastLogged).toBeNull();
    const place = seamPlace(proof.compiled, 3);
    const subject: DrillSubject = {
      kind: 'drill',
      place,
      way: 'clap',
      percent: 80,
      goalPercent: 100,
      bpm: 96,
      sections: ['Reeds'],
      ratingBefore: 2,
    };
    const settings = { ...PLAIN_RUN, loop: { from: 2, to: 4 }, percent: 80 };
    await playback.countIn(proof, 2, { subject, settings });
    pass(3);
    store.dispatch(runMarked('good'));
    playback.stop();
    expect(logged()).toMatchObject({ placeKind: 'seam', barIndex: 3, way: 'clap', mark: 'good', bpm: 96 });
    expect(logged()).toMatchObject({ sections: ['Reeds'], ratingBefore: 2, percent: 80 });
  });

  test('what is started while a run sounds ends it, and both are logged', async () => {
    await playback.countIn(proof, 0, piece);
    pass(START_DELAY_SECONDS + 4.1);
    await playback.countIn(proof, 4, piece);
    expect(logged()).toMatchObject({ id: 'run 1', barIndex: 0, bars: 1 });
    pass(START_DELAY_SECONDS + 1.75 + 1.8);
    playback.stop();
    expect(logged()).toMatchObject({ id: 'run 2', barIndex: 4, bars: 1 });
  });

  test('exercises and auditions run, and stay out of the log', async () => {
    await playback.countIn(proof, 0, { subject: { kind: 'exercise' }, settings: PLAIN_RUN });
    pass(30);
    expect(transport()).toMatchObject({ status: 'stopped', lastLogged: null });
    const over = playback.audition(listedSounds([{ timeSeconds: 0, kind: 'beat' }], 1));
    expect([playback.isRunning, transport().run?.subject.kind]).toEqual([true, 'audition']);
    await Promise.resolve();
    pass(1.5);
    await over;
    expect([playback.isRunning, transport().lastLogged]).toEqual([false, null]);
  });

  test('a change takes effect at the next beat, the cue after a beat of preparation, a stop at the bar’s end there', async () => {
    const waiting = proofWith({ holds: [{ at: '3/4', length: 'until cued' }] }, {}, {});
    await playback.countIn(waiting, 0, piece);
    const start = 5 + START_DELAY_SECONDS;
    pass(START_DELAY_SECONDS + 2.2);
    playback.want({ percent: 50 });
    expect(transport()).toMatchObject({ settings: { percent: 50 }, run: { settings: { percent: 50 } } });
    pass(20);
    expect(transport()).toMatchObject({ status: 'running', waits: 'for a cue' });
    playback.cue();
    pass(0.5);
    expect(transport().waits).toBe('a beat');
    pass(1);
    expect(transport()).toMatchObject({ performed: 1, waits: null });
    playback.stopAtBarEnd();
    pass(9);
    expect(transport().status).toBe('stopped');
    const times = device.heard().map(({ whenSeconds }) => Number((whenSeconds - start).toFixed(2)));
    const cueAt = 22.26;
    const music = [1, 2, 3, 4].map((beat) => Number((cueAt + beat).toFixed(2)));
    expect(times).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3.5, 4.5, cueAt, ...music]);
  });

  test.each([
    [0.02, 0],
    [0.1, 0],
    [0.4, 0],
    [0, 0.2],
    [0.1, 0.3],
  ])(
    'where it takes %d s to work out and sound comes %d s late, a change loses no beat and doubles none',
    async (workedOutSeconds, latencySeconds) => {
      const steady = proofWith(
        { tempo: [{ tempo: 'quarter = 120' }] },
        ...Array.from({ length: 9 }, () => ({})),
      );
      await playback.countIn(steady, 0, piece);
      device.latencySeconds = () => latencySeconds;
      for (const percent of [90, 100, 90, 100, 90, 100]) {
        pass(1.03);
        // Time passes after the moment was read from which it is to hold.
        device.latencySeconds = () => {
          device.stall(workedOutSeconds);
          return latencySeconds;
        };
        playback.want({ percent });
        device.latencySeconds = () => latencySeconds;
      }
      pass(0.5);
      const sounds = device.heard();
      const times = sounds.map(({ whenSeconds }) => whenSeconds).sort((a, b) => a - b);
      const gaps = times.slice(1).map((time, index) => time - times[index]!);
      const off = gaps.map((gap) => Math.min(Math.abs(gap - 0.5), Math.abs(gap - 0.5 / 0.9)));
      expect(sounds.every((sound) => sound.whenSeconds >= sound.handedOverAt)).toBe(true);
      expect(Math.max(...off)).toBeLessThan(0.0001);
      expect(gaps.some((gap) => gap > 0.55)).toBe(true);
    },
  );

  test('its level is the device’s, and a mute silences it and gives it back', async () => {
    await playback.countIn(proof, 0, piece);
    playback.level.set(0.4);
    playback.level.toggleMute();
    expect(device.level).toBe(0);
    playback.level.toggleMute();
    expect(device.level).toBe(0.4);
  });

  test('it keeps quiet while another window of the browser is heard in the same run, and shows it all the same', async () => {
    const channel = { post: () => undefined, hear: (_said: SoundingWindow) => undefined as void };
    const onSaid = (hear: typeof channel.hear) => void (channel.hear = hear);
    const here = hearOneWindow(playback, store, 'here', { post: channel.post, onSaid });
    here.touch(1000);
    await playback.countIn(proof, 0, piece);
    const runId = transport().run?.id ?? '';
    const { level } = device;
    channel.hear({ windowId: 'other', runId, touchedAtMs: 2000 });
    pass(START_DELAY_SECONDS + 3);
    expect([device.level, transport().beatIndex]).toEqual([0, 2]);
    here.touch(3000);
    expect([level > 0, device.level]).toEqual([true, level]);
  });
});
