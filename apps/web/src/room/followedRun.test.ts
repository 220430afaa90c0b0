import { beforeEach, describe, expect, test } from '@jest/globals';
import { SimulatedStage } from '@anchorbeat/audio';
import {
  allClicks,
  beatsIn,
  PLAIN_RUN,
  proofOf,
  readPiece,
  runOf,
  type Hearing,
  type RoomRun,
  type RunCommand,
} from '@anchorbeat/core';
import { FollowedRun } from './followedRun.ts';

const reading = readPiece({
  format: 'anchorbeat-piece',
  version: 1,
  title: 'T',
  bars: [
    { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
    {},
    {},
    { meter: '7/8 as 2+2+3', tempo: [{ equivalence: 'eighth = eighth' }] },
    {},
    {},
  ],
});
if (!reading.ok) throw new Error('the test piece does not read');
const proof = proofOf(reading.piece);

const START_SECONDS = 20;
const run = (...commands: readonly RunCommand[]): RoomRun => ({
  id: 'run 1',
  pieceId: 'piece',
  revision: 1,
  title: 'from bar 1',
  startServerMs: START_SECONDS * 1000,
  session: { settings: PLAIN_RUN, commands: [{ kind: 'start', performed: 0, call: null }, ...commands] },
});
const planOf = (of: RoomRun) => runOf(proof, of.session).plan!;
const timesOf = (of: RoomRun) => allClicks(proof, planOf(of)).map(({ timeSeconds }) => timeSeconds);

describe('a run followed by one device', () => {
  let stage: SimulatedStage;
  let maySound: boolean;
  let lateSeconds: number;
  const followed = (of: RoomRun, hearing: Hearing = 'pulse') =>
    new FollowedRun(proof, of, hearing, {
      output: stage,
      timer: stage,
      serverNowMs: () => stage.nowSeconds() * 1000,
      dueSeconds: (serverMs) => serverMs / 1000 + lateSeconds,
      maySound: () => maySound,
    });
  /** Lets time pass; the device looks at its run ten times a second. */
  const pass = async (device: FollowedRun, seconds: number) => {
    for (let step = 0; step < seconds * 10; step++) {
      stage.run(0.1);
      device.consider();
      await Promise.resolve();
    }
  };
  const heard = () =>
    stage.sounds
      .filter(({ isCancelled }) => !isCancelled)
      .map(({ whenSeconds }) => Number((whenSeconds - START_SECONDS).toFixed(3)));
  const rounded = (times: readonly number[]) => times.map((time) => Number(time.toFixed(3)));

  beforeEach(() => {
    stage = new SimulatedStage(15);
    maySound = true;
    lateSeconds = 0;
  });

  test('sounds every click when the server’s clock says so', async () => {
    const device = followed(run());
    await pass(device, 25);
    expect(heard()).toEqual(rounded(timesOf(run())));
    expect([device.isOver, device.sounds]).toEqual([true, false]);
  });

  test('who is sure of the beat only later falls in on a downbeat, and misses none after it', async () => {
    maySound = false;
    const device = followed(run());
    await pass(device, 9.3);
    expect([heard(), device.sounds]).toEqual([[], false]);
    expect(device.momentMaybe()).toMatchObject({ phase: 'bar' });
    maySound = true;
    await pass(device, 16);
    const downbeats = beatsIn(proof, planOf(run()), { fromSeconds: 4.45, toSeconds: 100 }).filter(
      (beat) => beat.kind === 'music' && beat.beatIndex === 0,
    );
    const first = downbeats[0]!.runSeconds;
    expect(heard()).toEqual(rounded(timesOf(run()).filter((time) => time > first - 0.001)));
  });

  test('who hears through a loudspeaker that is late by almost a beat falls in on a downbeat too', async () => {
    lateSeconds = -0.4;
    maySound = false;
    const device = followed(run());
    await pass(device, 10.7);
    maySound = true;
    await pass(device, 16);
    const times = rounded(timesOf(run()).map((time) => time + lateSeconds));
    const downbeats = beatsIn(proof, planOf(run()), { fromSeconds: 5.7, toSeconds: 100 }).filter(
      (beat) => beat.kind === 'music' && beat.beatIndex === 0,
    );
    expect(rounded(downbeats.map(({ runSeconds }) => runSeconds + lateSeconds))).toContain(heard()[0]);
    expect(heard()).toEqual(times.slice(-heard().length));
  });

  test('what is said to the run is obeyed at its moment, however often the whole list comes', async () => {
    const device = followed(run());
    await pass(device, 6);
    const changed = run({ kind: 'change', settings: { percent: 50 }, at: { every: 'bar', afterSeconds: 3 } });
    device.follow(changed);
    device.follow(changed);
    await pass(device, 1);
    const stopped = run(...changed.session.commands.slice(1), { kind: 'stopAtBarEnd', afterSeconds: 7 });
    device.follow(stopped);
    await pass(device, 30);
    expect(heard()).toEqual(rounded(timesOf(stopped)));
    expect(heard().length).toBeLessThan(timesOf(changed).length);
  });

  test('what the section hears changes from the next moment on, and back', async () => {
    const device = followed(run());
    await pass(device, 6);
    device.hear('anchors');
    await pass(device, 40);
    const all = rounded(timesOf(run()));
    expect(heard().length).toBeLessThan(all.length);
    expect(all).toEqual(expect.arrayContaining(heard()));
    expect(heard().filter((time) => time < 1)).toEqual(all.filter((time) => time < 1));
  });

  test('whose sound has gone astray falls silent and comes back with a bar, on time', async () => {
    const device = followed(run());
    await pass(device, 6);
    lateSeconds = 0.06;
    await pass(device, 20);
    const late = heard().filter((time) => time > 6);
    const ideal = rounded(timesOf(run()).map((time) => time + 0.06));
    expect(late.length).toBeGreaterThan(4);
    expect(ideal).toEqual(expect.arrayContaining(late));
  });

  test('closed it takes back what it has handed over', async () => {
    const device = followed(run());
    await pass(device, 6);
    device.close();
    await pass(device, 20);
    expect(Math.max(...heard())).toBeLessThan(1.2);
  });
});
