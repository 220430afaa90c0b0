import { beforeEach, describe, expect, test } from '@jest/globals';
import { allClicks, PLAIN_RUN, runFrom, soundsOf, type RunSounds } from '@anchorbeat/core';
import { proofWith } from '../../core/src/test/pieceOf.ts';
import { Player, SCHEDULE_AHEAD_SECONDS } from './player.ts';
import { SimulatedStage } from './simulatedStage.ts';

const SAMPLE_RATE = 44_100;

const proof = proofWith(
  { meter: '4/4', tempo: [{ tempo: 'quarter = 97' }] },
  ...Array.from({ length: 12 }, () => ({})),
  { meter: '7/8 as 2+2+3', tempo: [{ equivalence: 'triplet eighth = eighth' }] },
  ...Array.from({ length: 12 }, () => ({})),
);

describe('the player', () => {
  let stage: SimulatedStage;
  let player: Player;
  let isEnded: boolean;
  const plan = runFrom(proof, 0);
  const clicks = allClicks(proof, plan);
  const start = (startSeconds?: number) =>
    player.start(soundsOf(proof, plan), {
      onEnd: () => (isEnded = true),
      ...(startSeconds !== undefined && { startSeconds }),
    });
  const dueSamples = () =>
    clicks.map((click) => Math.round((stage.sounds[0]!.whenSeconds + click.timeSeconds) * SAMPLE_RATE));
  const playedSamples = () => stage.sounds.map((sound) => Math.round(sound.whenSeconds * SAMPLE_RATE));

  beforeEach(() => {
    stage = new SimulatedStage(12.3456789);
    player = new Player(stage, stage);
    isEnded = false;
  });

  test('plays every click of the plan once, on its sample, two seconds and more ahead, and then ends', async () => {
    await start();
    stage.run(plan.lengthSeconds + 1);
    expect(playedSamples()).toEqual(dueSamples());
    expect(stage.sounds.map(({ click }) => click.kind)).toEqual(clicks.map((click) => click.kind));
    const ahead = stage.sounds.filter(
      (sound) => sound.whenSeconds > stage.sounds[0]!.whenSeconds + SCHEDULE_AHEAD_SECONDS,
    );
    expect(Math.min(...ahead.map((sound) => sound.whenSeconds - sound.handedOverAt))).toBeGreaterThan(3.5);
    expect(isEnded).toBe(true);
    expect(player.runSecondsMaybe()).toBeNull();
  });

  test('loses nothing while the page is blocked for two seconds, again and again', async () => {
    await start();
    for (let round = 0; round < 8; round++) {
      stage.run(1);
      stage.stall(2);
    }
    stage.run(plan.lengthSeconds);
    expect(playedSamples()).toEqual(dueSamples());
    expect(stage.sounds.every((sound) => sound.whenSeconds >= sound.handedOverAt)).toBe(true);
  });

  test('after a stall longer than that it leaves out what is too late, and is in time again', async () => {
    await start();
    stage.run(1);
    stage.stall(7);
    stage.run(3);
    expect(player.leftOutClicks).toBeGreaterThan(0);
    expect(stage.sounds.every((sound) => sound.whenSeconds >= sound.handedOverAt - 0.002)).toBe(true);
    const due = new Set(dueSamples());
    expect(playedSamples().every((sample) => due.has(sample))).toBe(true);
  });

  test('stop silences at once what was handed over ahead', async () => {
    await start();
    stage.run(2.2);
    player.stop();
    const pending = stage.sounds.filter((sound) => sound.whenSeconds > stage.nowSeconds());
    expect(pending.length).toBeGreaterThan(3);
    expect(pending.every((sound) => sound.isCancelled)).toBe(true);
    const handedOver = stage.sounds.length;
    stage.run(5);
    expect(stage.sounds).toHaveLength(handedOver);
  });

  test('starts at a time that is given, to the sample', async () => {
    const begin = stage.nowSeconds() + 1.234567;
    await start(begin);
    stage.run(plan.lengthSeconds + 3);
    expect(playedSamples()).toEqual(
      clicks.map(({ timeSeconds }) => Math.round((begin + timeSeconds) * SAMPLE_RATE)),
    );
  });

  test('where the first clicks take long to work out it begins later, and none is late', async () => {
    await player.start(stage.slow(soundsOf(proof, plan), 0.3), { onEnd: () => (isEnded = true) });
    expect(player.runSecondsMaybe()).toBeCloseTo(-0.12, 4);
    stage.run(plan.lengthSeconds + 1);
    expect(playedSamples()).toEqual(dueSamples());
    const [first] = stage.sounds;
    expect(first!.whenSeconds - first!.handedOverAt).toBeCloseTo(0.12, 4);
  });

  test('where the first click takes long to hand over it begins later, and is not heard twice', async () => {
    const { schedule } = stage;
    let blockedSeconds = 0.5;
    stage.schedule = (...click) => {
      stage.stall(blockedSeconds);
      blockedSeconds = 0;
      return schedule.call(stage, ...click);
    };
    await start();
    stage.run(plan.lengthSeconds + 1);
    const heard = stage.sounds.filter(({ isCancelled }) => !isCancelled);
    expect(heard.map(({ click }) => click)).toEqual(clicks);
    expect(heard.every((sound) => sound.whenSeconds >= sound.handedOverAt)).toBe(true);
  });

  test('what is silent at first begins when it was to begin', async () => {
    const sounds = soundsOf(proof, plan);
    const clicksIn: RunSounds['clicksIn'] = (range) =>
      sounds.clicksIn(range).filter(({ timeSeconds }) => timeSeconds > 6);
    await player.start({ ...sounds, clicksIn }, { onEnd: () => undefined });
    stage.run(plan.lengthSeconds);
    const [first] = stage.sounds;
    expect(first!.whenSeconds - 12.3456789 - 0.12).toBeCloseTo(first!.click.timeSeconds, 4);
  });

  test.each([0.01, 3.3, 17.77])(
    'joins in the middle what began %d s ago: every click still to come, on its sample',
    async (ago) => {
      const begin = stage.nowSeconds() - ago;
      await start(begin);
      stage.run(plan.lengthSeconds);
      const due = clicks
        .map(({ timeSeconds }) => begin + timeSeconds)
        .filter((when) => when >= begin + ago - 0.002);
      expect(playedSamples()).toEqual(due.map((when) => Math.round(when * SAMPLE_RATE)));
      expect(player.leftOutClicks).toBe(0);
    },
  );

  test('a run that goes round without end is asked for as it comes, for two hours', async () => {
    const endless = runFrom(proof, 2, { ...PLAIN_RUN, loop: { from: 2, to: 5 } });
    await player.start(soundsOf(proof, endless), { onEnd: () => (isEnded = true) });
    stage.run(7200);
    const first = stage.sounds[0]!.whenSeconds;
    const barSeconds = (4 * 60) / 97;
    expect(stage.sounds.at(-1)!.whenSeconds - first).toBeCloseTo(
      Math.round((7203 / barSeconds) * 4) * (barSeconds / 4),
      -1,
    );
    stage.sounds.forEach(({ whenSeconds }, index) =>
      expect(Math.abs(whenSeconds - first - (index * barSeconds) / 4)).toBeLessThan(1.01 / SAMPLE_RATE),
    );
    expect(isEnded).toBe(false);
  });

  test('starting again replaces the run', async () => {
    await start();
    stage.run(1);
    await player.start(soundsOf(proof, runFrom(proof, 5)), { onEnd: () => undefined });
    const firstRun = stage.sounds.filter(
      (sound) => sound.handedOverAt < stage.nowSeconds() && sound.whenSeconds > stage.nowSeconds(),
    );
    expect(firstRun.every((sound) => sound.isCancelled)).toBe(true);
    expect(player.runSecondsMaybe()).toBeLessThan(0);
  });

  describe('by a clock that others share', () => {
    /** A clock on which the run begins at 20 s and goes `rate` times as fast as the sound's. */
    const sharedClock = (rate: number, onAdrift: () => void = () => undefined) => ({
      dueSeconds: (runSeconds: number) => 20 + runSeconds * rate,
      onAdrift,
    });
    const runTimes = () => stage.sounds.map(({ whenSeconds }) => Number((whenSeconds - 20).toFixed(4)));
    const clicksFrom = (from: number) =>
      clicks
        .filter(({ timeSeconds }) => timeSeconds >= from)
        .map(({ timeSeconds }) => Number((Math.round(timeSeconds * SAMPLE_RATE) / SAMPLE_RATE).toFixed(4)));

    test('a sound card that drifts is followed sound by sound, without a step', async () => {
      const rate = 1 + 200e-6;
      await player.start(soundsOf(proof, plan), { clock: sharedClock(rate), onEnd: () => undefined });
      stage.run(20 + plan.lengthSeconds);
      const due = clicks.map((click) => 20 + click.timeSeconds * rate);
      const off = stage.sounds.map(({ whenSeconds }, index) => whenSeconds - due[index]!);
      expect(stage.sounds).toHaveLength(clicks.length);
      expect(Math.max(...off.map(Math.abs))).toBeLessThan(0.0001);
    });

    test('what was wrong by a little is made good over some beats, never at once', async () => {
      let wrongSeconds = 0.01;
      const clock = { ...sharedClock(1), dueSeconds: (runSeconds: number) => 20 + runSeconds + wrongSeconds };
      await player.start(soundsOf(proof, plan), { clock, onEnd: () => undefined });
      stage.run(10);
      wrongSeconds = 0;
      stage.run(10 + plan.lengthSeconds);
      const off = stage.sounds.map(({ whenSeconds, click }) => whenSeconds - 20 - click.timeSeconds);
      const steps = off.slice(1).map((value, index) => Math.abs(value - off[index]!));
      const gaps = clicks.slice(1).map((click, index) => click.timeSeconds - clicks[index]!.timeSeconds);
      expect(steps.every((step, index) => step <= 0.0005 + 0.001 * gaps[index]! + 1 / SAMPLE_RATE)).toBe(
        true,
      );
      expect(off[0]).toBeCloseTo(0.01, 4);
      expect(off.at(-1)).toBeCloseTo(0, 4);
    });

    test('far off it falls silent and says so, once', async () => {
      let wrongSeconds = 0;
      let adrift = 0;
      const clock = {
        dueSeconds: (runSeconds: number) => 20 + runSeconds + wrongSeconds,
        onAdrift: () => adrift++,
      };
      await player.start(soundsOf(proof, plan), { clock, onEnd: () => undefined });
      stage.run(9);
      wrongSeconds = 0.04;
      stage.run(30);
      expect(adrift).toBe(1);
      expect(player.runSecondsMaybe()).toBeNull();
    });

    test('who falls in later begins where it is told, on time', async () => {
      stage.run(14);
      await player.start(soundsOf(proof, plan), {
        clock: sharedClock(1),
        fallIn: () => 8,
        onEnd: () => undefined,
      });
      stage.run(plan.lengthSeconds);
      expect(runTimes()).toEqual(clicksFrom(8));
    });

    test.each([
      ['before it has begun, begins with it', 19.5, 0.3, -Infinity],
      ['before it has begun, but for the first clicks too long, falls in', 19.5, 1.5, 2],
      ['while it goes on, falls in', 21, 0.1, 2],
      ['while it goes on, and misses the place to fall in, falls in at the next', 21, 1.5, 4],
    ])('who starts %s', async (_what, at, blockedSeconds, from) => {
      stage.run(at - stage.nowSeconds());
      await player.start(stage.slow(soundsOf(proof, plan), blockedSeconds), {
        clock: sharedClock(1),
        fallIn: (runSeconds) => (runSeconds <= 0 ? -Infinity : Math.ceil(runSeconds / 2) * 2),
        onEnd: () => undefined,
      });
      stage.run(1);
      expect(player.leftOutClicks).toBe(0);
      stage.run(plan.lengthSeconds + 3);
      expect(runTimes()).toEqual(clicksFrom(from));
    });
  });
});
