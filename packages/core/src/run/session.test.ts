import { describe, expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import type { Proof } from '../proof/proof.ts';
import type { BarDocument } from '../document/document.ts';
import type { Hold } from '../piece/piece.ts';
import { ZERO } from '../fraction/fraction.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { performedCount } from '../timeline/query.ts';
import { beatsIn } from './beatsIn.ts';
import { clicksIn } from './clicksIn.ts';
import { stretchesIn, type RunPlan } from './runPlan.ts';
import { readyRun, runAfter, runOf, type RunCommand, type RunState } from './session.ts';
import { PLAIN_RUN, type RunSettings } from './settings.ts';

const HORIZON_SECONDS = 300;

const CUED: Hold = { kind: 'hold', atWholes: ZERO, length: { kind: 'until cued' } };

/** A piece of every kind of thing a run can meet: holds to be cued, open repeats, ramps, odd bars. */
function wildPiece(seed: number): Proof {
  const piece = randomPiece(seed, 24);
  const bars = piece.bars.map((bar, index) => ({
    ...bar,
    ...(index === 9 && {
      holds: [CUED],
    }),
    ...(index === 14 && { startsRepeat: true as const }),
    ...(index === 16 && { endsRepeat: 'until cued' as const }),
  }));
  return proofOf({ ...piece, bars });
}

/** Twelve things a director might say, at moments that go on. */
function randomCommands(random: () => number, { compiled }: Proof): readonly RunCommand[] {
  const bars = performedCount(compiled.timeline);
  const commands: RunCommand[] = [{ kind: 'start', performed: Math.floor(random() * 4), call: null }];
  let at = 1;
  for (let index = 0; index < 12; index++) {
    at += random() * 12;
    const every = random() < 0.5 ? 'beat' : 'bar';
    const from = Math.floor(random() * (bars - 2));
    const choices: readonly RunCommand[] = [
      {
        kind: 'change',
        settings: { percent: 40 + Math.floor(random() * 100) },
        at: { every, afterSeconds: at },
      },
      { kind: 'change', settings: { clickOn: 'subdivision' }, at: { every, afterSeconds: at } },
      { kind: 'change', settings: { clickOn: 'carry', overlay: 3 }, at: { every, afterSeconds: at } },
      {
        kind: 'change',
        settings: { fade: { kind: 'bars', on: 2, off: 1 } },
        at: { every, afterSeconds: at },
      },
      {
        kind: 'change',
        settings: { loop: { from, to: from + 2 }, countsEachRound: random() < 0.5 },
        at: { every, afterSeconds: at },
      },
      { kind: 'change', settings: { loop: null, spoken: 'everything' }, at: { every, afterSeconds: at } },
      { kind: 'cue', atSeconds: at },
      { kind: 'goOn', afterSeconds: at },
    ];
    commands.push(choices[Math.floor(random() * choices.length)]!);
  }
  if (random() < 0.3) commands.push({ kind: 'stopAtBarEnd', afterSeconds: at });
  return commands;
}

const clicksOf = (proof: Proof, plan: RunPlan) =>
  clicksIn(proof, plan, { fromSeconds: 0, toSeconds: HORIZON_SECONDS });

test.each(Array.from({ length: 40 }, (_, seed) => [seed]))(
  'replayed from its list, sent as text, a run is the same to the last digit, and each change keeps what was before (%i)',
  (seed) => {
    const proof = wildPiece(seed);
    const commands = randomCommands(seededRandom(seed), proof);
    let state: RunState = readyRun(PLAIN_RUN);
    for (const command of commands) {
      const before = state.plan;
      state = runAfter(proof, state, command);
      if (!before || !state.plan || before === state.plan) continue;
      const window = { fromSeconds: -Infinity, toSeconds: state.changedFromSeconds - 1e-6 };
      expect(clicksIn(proof, state.plan, window)).toEqual(clicksIn(proof, before, window));
    }
    const sent = JSON.parse(JSON.stringify({ settings: PLAIN_RUN, commands })) as {
      settings: RunSettings;
      commands: RunCommand[];
    };
    const late = runOf(proofOf(proof.piece), sent).plan!;
    expect(clicksOf(proof, late)).toEqual(clicksOf(proof, state.plan!));
    expect(late.lengthSeconds).toBe(state.plan!.lengthSeconds);
  },
);

test.each(Array.from({ length: 25 }, (_, seed) => [seed]))(
  'windows that meet lose nothing and double nothing, wherever they meet (%i)',
  (seed) => {
    const random = seededRandom(1000 + seed);
    const proof = wildPiece(seed);
    const plan = runOf(proof, { settings: PLAIN_RUN, commands: randomCommands(random, proof) }).plan!;
    const whole = clicksOf(proof, plan);
    const beats = beatsIn(proof, plan, { fromSeconds: 0, toSeconds: HORIZON_SECONDS });
    const [clicksByPart, beatsByPart] = [[...whole.slice(0, 0)], [...beats.slice(0, 0)]];
    for (let from = 0; from < HORIZON_SECONDS;) {
      // Now and then exactly at a click, where an edge hurts most.
      const some = whole[Math.floor(random() * whole.length)]?.timeSeconds ?? 0;
      const to = Math.min(HORIZON_SECONDS, random() < 0.3 && some > from ? some : from + random() * 7);
      clicksByPart.push(...clicksIn(proof, plan, { fromSeconds: from, toSeconds: to }));
      beatsByPart.push(...beatsIn(proof, plan, { fromSeconds: from, toSeconds: to }));
      from = to;
    }
    expect(clicksByPart).toEqual(whole);
    expect(beatsByPart).toEqual(beats);
    whole.reduce((before, click) => {
      expect(click.timeSeconds).toBeGreaterThanOrEqual(before.timeSeconds);
      return click;
    });
  },
);

const fourFour = (first: BarDocument, ...more: BarDocument[]) =>
  proofOf(pieceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }], ...first }, ...more));

describe('what is said to a run', () => {
  const started = (proof: Proof, settings: Partial<RunSettings> = {}) =>
    runAfter(proof, readyRun({ ...PLAIN_RUN, ...settings }), { kind: 'start', performed: 0, call: null });

  test('before its start nothing counts, and it starts once', () => {
    const proof = fourFour({}, {});
    const ready = readyRun(PLAIN_RUN);
    expect(runAfter(proof, ready, { kind: 'cue', atSeconds: 1 })).toBe(ready);
    const state = started(proof);
    expect(runAfter(proof, state, { kind: 'start', performed: 1, call: null })).toBe(state);
  });

  test('what there is nothing to do for leaves the run the very same', () => {
    const proof = fourFour({}, {});
    const state = started(proof);
    for (const command of [
      { kind: 'cue', atSeconds: 3 },
      { kind: 'goOn', afterSeconds: 3 },
      { kind: 'stop', atSeconds: 99 },
      { kind: 'stopAtBarEnd', afterSeconds: 99 },
    ] as const)
      expect(runAfter(proof, state, command)).toBe(state);
  });

  test('a stop silences from its moment on, a stop at the bar’s end from the next barline', () => {
    const proof = fourFour({}, {}, {});
    const stopped = runAfter(proof, started(proof), { kind: 'stop', atSeconds: 3.2 });
    expect(stopped.plan!.lengthSeconds).toBe(3.2);
    const atBar = runAfter(proof, started(proof), { kind: 'stopAtBarEnd', afterSeconds: 3.2 });
    expect(atBar.plan!.lengthSeconds).toBe(4);
    expect(clicksOf(proof, atBar.plan!).at(-1)!.timeSeconds).toBe(3.5);
  });

  test('a change made while it waits for a cue holds from the cue on', () => {
    const proof = fourFour({ holds: [{ at: '3/4', length: 'until cued' }] }, {}, {});
    const at = { every: 'beat', afterSeconds: 10 } as const;
    const slower = runAfter(proof, started(proof), { kind: 'change', settings: { percent: 50 }, at });
    const cued = runAfter(proof, slower, { kind: 'cue', atSeconds: 20 });
    expect(
      clicksOf(proof, cued.plan!)
        .map(({ timeSeconds }) => timeSeconds)
        .filter((time) => time >= 20),
    ).toEqual([20, 21, 22, 23, 24, 25, 26, 27, 28]);
  });
});

test('a loop without end is planned once, and its thousandth round is as exact as its first', () => {
  const proof = proofOf(
    pieceOf({ meter: '7/8 as 2+2+3', tempo: [{ tempo: 'eighth = 211' }] }, { meter: '5/16' }, {}, {}),
  );
  const settings = { ...PLAIN_RUN, loop: { from: 1, to: 3 } };
  const { plan } = runOf(proof, { settings, commands: [{ kind: 'start', performed: 1, call: null }] });
  expect(plan!.lengthSeconds).toBe(Infinity);
  expect(plan!.stretches.length).toBeLessThan(6);
  const roundSeconds = (10 / 2) * (60 / 211);
  const first = plan!.endless!;
  expect(first.lengthSeconds).toBeCloseTo(roundSeconds, 12);
  const start = plan!.stretches[first.fromStretch]!.runSeconds + 1000 * roundSeconds;
  const [thousandth] = stretchesIn(plan!, start + 1e-6, start + 2e-6);
  expect(thousandth!.runSeconds).toBeCloseTo(start, 9);
});
