import { beforeEach, describe, expect, test } from '@jest/globals';
import {
  allClicks,
  clicksIn,
  PLAIN_RUN,
  readyRun,
  runAfter,
  soundsOf,
  type RunSettings,
} from '@anchorbeat/core';
import { proofWith } from '../../core/src/test/pieceOf.ts';
import { Player } from './player.ts';
import { SimulatedStage } from './simulatedStage.ts';

const SAMPLE_RATE = 44_100;

const proof = proofWith(
  { meter: '4/4', tempo: [{ tempo: 'quarter = 97' }] },
  ...Array.from({ length: 12 }, () => ({})),
  { meter: '7/8 as 2+2+3', tempo: [{ equivalence: 'triplet eighth = eighth' }] },
  ...Array.from({ length: 12 }, () => ({})),
);

describe('a change while the player sounds', () => {
  let stage: SimulatedStage;
  let player: Player;

  beforeEach(() => {
    stage = new SimulatedStage(12.3456789);
    player = new Player(stage, stage);
  });

  test('a change that holds from a bar farther off than is handed over leaves out nothing before it', async () => {
    const slow = proofWith({ meter: '4/4', tempo: [{ tempo: 'quarter = 30' }] }, {}, {}, {});
    let state = runAfter(slow, readyRun(PLAIN_RUN), { kind: 'start', performed: 0, call: null });
    await player.start(soundsOf(slow, state.plan!), { onEnd: () => undefined });
    stage.run(10);
    for (const percent of [90, 100, 110]) {
      stage.stall(1.9);
      const at = { every: 'bar', afterSeconds: player.runSecondsMaybe()! + 0.06 } as const;
      state = runAfter(slow, state, { kind: 'change', settings: { percent }, at });
      player.change(soundsOf(slow, state.plan!), state.changedFromSeconds);
    }
    const due = allClicks(slow, state.plan!).map(({ timeSeconds }) => timeSeconds);
    stage.run(state.plan!.lengthSeconds);
    const heard = stage.sounds.filter(({ isCancelled }) => !isCancelled);
    const begin = heard[0]!.whenSeconds;
    expect(heard.map(({ whenSeconds }) => Math.round((whenSeconds - begin) * 1000))).toEqual(
      due.map((time) => Math.round(time * 1000)),
    );
  });

  test.each([
    [0.02, 1.12],
    [0.3, 1.12],
    [0.7, 1.25],
    [1.5, 2],
  ])(
    'a change that takes %d s to work out loses no beat and doubles none: %d beats from one to the next at most',
    async (blockedSeconds, mostBeats) => {
      let state = runAfter(proof, readyRun(PLAIN_RUN), { kind: 'start', performed: 0, call: null });
      await player.start(soundsOf(proof, state.plan!), { onEnd: () => undefined });
      for (let round = 0; round < 20; round++) {
        stage.run(0.83);
        const change = { percent: round % 2 === 0 ? 90 : 100 };
        const at = { every: 'beat', afterSeconds: player.runSecondsMaybe()! + 0.06 } as const;
        state = runAfter(proof, state, { kind: 'change', settings: change, at });
        player.change(stage.slow(soundsOf(proof, state.plan!), blockedSeconds), state.changedFromSeconds);
      }
      stage.run(3);
      const heard = stage.sounds.filter(({ isCancelled }) => !isCancelled);
      expect(heard.every((sound) => sound.whenSeconds >= sound.handedOverAt)).toBe(true);
      const times = heard.map(({ whenSeconds }) => whenSeconds).sort((a, b) => a - b);
      const gaps = times.slice(1).map((time, index) => time - times[index]!);
      const beat = 60 / 97;
      expect(Math.min(...gaps)).toBeGreaterThan(0.05);
      expect(Math.max(...gaps)).toBeLessThan(mostBeats * beat);
      if (blockedSeconds <= 0.3)
        for (const gap of gaps) {
          const off = Math.min(Math.abs(gap - beat), Math.abs(gap - beat / 0.9));
          expect(off).toBeLessThan(2 / SAMPLE_RATE);
        }
    },
  );

  test.each([0.3, 1, 2.2, 3.6])(
    'held up for %d s anywhere in a change, it goes on with the old beats until it has the new ones',
    async (blockedSeconds) => {
      const beat = 60 / 97;
      for (const percent of [50, 90, 130])
        for (let place = 0; place < 8; place++) {
          stage = new SimulatedStage(place / 7);
          player = new Player(stage, stage);
          let state = runAfter(proof, readyRun(PLAIN_RUN), { kind: 'start', performed: 0, call: null });
          await player.start(soundsOf(proof, state.plan!), { onEnd: () => undefined });
          stage.run(6.3);
          const at = { every: 'beat', afterSeconds: player.runSecondsMaybe()! + 0.06 } as const;
          state = runAfter(proof, state, { kind: 'change', settings: { percent }, at });
          const { schedule } = stage;
          let handedOver = 0;
          stage.schedule = (...click) => {
            if (handedOver++ === place) stage.stall(blockedSeconds);
            return schedule.call(stage, ...click);
          };
          player.change(soundsOf(proof, state.plan!), state.changedFromSeconds);
          const changedAt = stage.nowSeconds();
          stage.run(6);
          const heard = stage.sounds.filter(
            ({ isCancelled, whenSeconds }) => !isCancelled && whenSeconds < changedAt + 6,
          );
          expect(heard.every((sound) => sound.whenSeconds >= sound.handedOverAt)).toBe(true);
          const times = heard.map(({ whenSeconds }) => whenSeconds).sort((a, b) => a - b);
          const gaps = times.slice(1).map((time, index) => time - times[index]!);
          expect(Math.min(...gaps)).toBeGreaterThan(0.05);
          expect(Math.max(...gaps)).toBeLessThan((1.05 * beat) / Math.min(1, percent / 100) + beat);
        }
    },
  );

  test.each<[number, Partial<RunSettings>]>([
    [0.005, {}],
    [0.02, {}],
    [0.05, {}],
    // A beat that is said is another than one that is clicked.
    [0.005, { spoken: 'everything' }],
    [0.02, { spoken: 'everything' }],
  ])('where each beat takes %d s to hand over no beat is heard twice (%j)', async (seconds, more) => {
    for (let lead = 0.021; lead < 0.14; lead += 0.004) {
      stage = new SimulatedStage(lead);
      player = new Player(stage, stage);
      let state = runAfter(proof, readyRun(PLAIN_RUN), { kind: 'start', performed: 0, call: null });
      await player.start(soundsOf(proof, state.plan!), { onEnd: () => undefined });
      stage.run(6.3);
      const ahead = stage.sounds.filter(({ whenSeconds }) => whenSeconds > stage.nowSeconds() + 0.2);
      stage.stall(ahead[0]!.whenSeconds - lead - stage.nowSeconds());
      const at = { every: 'beat', afterSeconds: player.runSecondsMaybe()! } as const;
      state = runAfter(proof, state, { kind: 'change', settings: { percent: 97, ...more }, at });
      const { schedule } = stage;
      stage.schedule = (...click) => {
        const { cancel } = schedule.call(stage, ...click);
        const sound = stage.sounds.at(-1)!;
        stage.stall(seconds);
        return { cancel: () => void (sound.whenSeconds > stage.nowSeconds() && cancel()) };
      };
      player.change(soundsOf(proof, state.plan!), state.changedFromSeconds);
      stage.schedule = schedule;
      stage.run(4);
      const heard = stage.sounds.filter(({ isCancelled }) => !isCancelled);
      const times = heard.map(({ whenSeconds }) => whenSeconds).sort((a, b) => a - b);
      const gaps = times.slice(1).map((time, index) => time - times[index]!);
      expect([lead, Math.min(...gaps) > 0.05]).toEqual([lead, true]);
    }
  });

  test('a change of plan while it sounds leaves no gap and doubles nothing, 50 times in a row', async () => {
    const source = proofWith(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 132' }] },
      ...Array.from({ length: 120 }, (_, bar) =>
        bar % 5 === 3 ? { meter: '7/8 as 2+2+3' } : { meter: '4/4' },
      ),
    );
    let state = runAfter(source, readyRun(PLAIN_RUN), { kind: 'start', performed: 0, call: null });
    await player.start(soundsOf(source, state.plan!), { onEnd: () => undefined });
    const entry = stage.sounds[0]!.whenSeconds;
    for (let change = 0; change < 50; change++) {
      stage.run(0.9);
      const at = {
        every: change % 2 ? 'beat' : 'bar',
        afterSeconds: player.runSecondsMaybe()! + 0.05,
      } as const;
      const percent = [60, 100, 150, 83, 47][change % 5]!;
      state = runAfter(source, state, { kind: 'change', settings: { percent }, at });
      player.change(soundsOf(source, state.plan!), state.changedFromSeconds);
    }
    stage.run(20);
    const heard = stage.sounds.filter((sound) => !sound.isCancelled);
    const heardSamples = heard
      .map((sound) => Math.round(sound.whenSeconds * SAMPLE_RATE))
      .sort((a, b) => a - b);
    const due = clicksIn(source, state.plan!, { fromSeconds: 0, toSeconds: 1000 })
      .map((click) => Math.round((entry + click.timeSeconds) * SAMPLE_RATE))
      .filter((sample) => sample < stage.nowSeconds() * SAMPLE_RATE);
    expect(heardSamples.slice(0, due.length)).toEqual(due);
    expect(new Set(heardSamples).size).toBe(heardSamples.length);
    expect(heard.every((sound) => sound.whenSeconds >= sound.handedOverAt)).toBe(true);
    expect(player.leftOutClicks).toBe(0);
  });
});
