import { beforeEach, describe, expect, test } from '@jest/globals';
import {
  changedRun,
  compilePiece,
  countOffFor,
  nextBoundaryMaybe,
  PLAIN_RUN,
  readPiece,
  runFrom,
  runPlanOf,
  type RunClick,
  type RunPlan,
} from '@anchorbeat/core';
import { Player, SCHEDULE_AHEAD_SECONDS } from './player.ts';
import type { SoundOutput, WakeTimer } from './ports.ts';

const SAMPLE_RATE = 44_100;

interface Sound {
  readonly kind: string;
  readonly whenSeconds: number;
  readonly handedOverAt: number;
  isCancelled: boolean;
}

/** An output and a timer on a clock that the test moves. */
class SimulatedStage implements SoundOutput, WakeTimer {
  readonly sampleRate = SAMPLE_RATE;
  readonly sounds: Sound[] = [];
  now = 12.3456789;
  private wakes = new Map<() => void, number>();

  nowSeconds = () => this.now;
  latencySeconds = () => 0;
  resume = () => Promise.resolve();

  schedule({ kind }: RunClick, whenSeconds: number) {
    const sound = { kind, whenSeconds, handedOverAt: this.now, isCancelled: false };
    this.sounds.push(sound);
    return { cancel: () => (sound.isCancelled = true) };
  }

  every(periodSeconds: number, wake: () => void) {
    this.wakes.set(wake, periodSeconds);
    return () => this.wakes.delete(wake);
  }

  /** Lets time pass; the timer wakes as it would. */
  run(seconds: number): void {
    const end = this.now + seconds;
    while (this.now < end) {
      this.now = Math.min(end, this.now + 0.25);
      for (const wake of [...this.wakes.keys()]) wake();
    }
  }

  /** Time passes while the page is blocked. */
  stall(seconds: number): void {
    this.now += seconds;
  }
}

function planOf(from = 0): RunPlan {
  const reading = readPiece({
    format: 'anchorbeat-piece',
    version: 1,
    title: 'T',
    bars: [
      { meter: '4/4', tempo: [{ tempo: 'quarter = 97' }] },
      ...Array.from({ length: 12 }, () => ({})),
      { meter: '7/8 as 2+2+3', tempo: [{ equivalence: 'triplet eighth = eighth' }] },
      ...Array.from({ length: 12 }, () => ({})),
    ],
  });
  if (!reading.ok) throw new Error('the test piece does not read');
  const compiled = compilePiece(reading.piece);
  return runPlanOf(
    { piece: reading.piece, compiled },
    countOffFor(reading.piece, compiled.timeline, from),
    from,
  );
}

describe('the player', () => {
  let stage: SimulatedStage;
  let player: Player;
  let isEnded: boolean;
  const plan = planOf();
  const start = () => player.start(plan, () => (isEnded = true));
  const dueSamples = () =>
    plan.clicks.map((click) => Math.round((stage.sounds[0]!.whenSeconds + click.timeSeconds) * SAMPLE_RATE));
  const playedSamples = () => stage.sounds.map((sound) => Math.round(sound.whenSeconds * SAMPLE_RATE));

  beforeEach(() => {
    stage = new SimulatedStage();
    player = new Player(stage, stage);
    isEnded = false;
  });

  test('plays every click of the plan once, on its sample, two seconds and more ahead, and then ends', async () => {
    await start();
    stage.run(plan.lengthSeconds + 1);
    expect(playedSamples()).toEqual(dueSamples());
    expect(stage.sounds.map((sound) => sound.kind)).toEqual(plan.clicks.map((click) => click.kind));
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
    const pending = stage.sounds.filter((sound) => sound.whenSeconds > stage.now);
    expect(pending.length).toBeGreaterThan(3);
    expect(pending.every((sound) => sound.isCancelled)).toBe(true);
    const handedOver = stage.sounds.length;
    stage.run(5);
    expect(stage.sounds).toHaveLength(handedOver);
  });

  test('starting again replaces the run', async () => {
    await start();
    stage.run(1);
    await player.start(planOf(5), () => undefined);
    const firstRun = stage.sounds.filter(
      (sound) => sound.handedOverAt < stage.now && sound.whenSeconds > stage.now,
    );
    expect(firstRun.every((sound) => sound.isCancelled)).toBe(true);
    expect(player.runSecondsMaybe()).toBeLessThan(0);
  });

  test('a change of plan while it sounds leaves no gap and doubles nothing, 50 times in a row', async () => {
    const reading = readPiece({
      format: 'anchorbeat-piece',
      version: 1,
      title: 'T',
      bars: [
        { meter: '4/4', tempo: [{ tempo: 'quarter = 132' }] },
        ...Array.from({ length: 120 }, (_, bar) =>
          bar % 5 === 3 ? { meter: '7/8 as 2+2+3' } : { meter: '4/4' },
        ),
      ],
    });
    if (!reading.ok) throw new Error('the piece does not read');
    const source = { piece: reading.piece, compiled: compilePiece(reading.piece) };
    let running = runFrom(source, 0);
    await player.start(running, () => undefined);
    const entry = stage.sounds[0]!.whenSeconds;
    for (let change = 0; change < 50; change++) {
      stage.run(0.9);
      const percent = [60, 100, 150, 83, 47][change % 5]!;
      const now = player.runSecondsMaybe()!;
      const boundary = nextBoundaryMaybe(source, running, now + 0.05, change % 2 ? 'beat' : 'bar')!;
      running = changedRun(source, running, { ...PLAIN_RUN, percent }, boundary);
      player.change(running, boundary.runSeconds);
    }
    stage.run(20);
    const heard = stage.sounds.filter((sound) => !sound.isCancelled);
    const heardSamples = heard
      .map((sound) => Math.round(sound.whenSeconds * SAMPLE_RATE))
      .sort((a, b) => a - b);
    const due = running.clicks
      .map((click) => Math.round((entry + click.timeSeconds) * SAMPLE_RATE))
      .filter((sample) => sample < stage.now * SAMPLE_RATE);
    expect(heardSamples.slice(0, due.length)).toEqual(due);
    expect(new Set(heardSamples).size).toBe(heardSamples.length);
    expect(heard.every((sound) => sound.whenSeconds >= sound.handedOverAt)).toBe(true);
    expect(player.leftOutClicks).toBe(0);
  });
});
