import { expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { heardBars, isHeardToEnd } from './heard.ts';
import { readyRun, runAfter, type RunCommand } from './session.ts';
import { PLAIN_RUN, type RunSettings } from './settings.ts';

/** Bars of two seconds, counted off in two; the second is repeated, the fourth is held at its end. */
const proof = proofOf(
  pieceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
    { startsRepeat: true, endsRepeat: 2 },
    {},
    { holds: [{ at: '3/4', length: '2 seconds' }] },
    {},
  ),
);

function planned(performed = 0, settings: Partial<RunSettings> = {}, ...more: RunCommand[]) {
  const start: RunCommand = { kind: 'start', performed, call: null };
  const state = [start, ...more].reduce(
    (run, command) => runAfter(proof, run, command),
    readyRun({ ...PLAIN_RUN, ...settings }),
  );
  return state.plan!;
}

const heard = (until: number, ...run: Parameters<typeof planned>) => heardBars(proof, planned(...run), until);

const none = { wholeBars: 0, barIndex: null, bars: 0 };
const slower: RunCommand = {
  kind: 'change',
  settings: { percent: 50 },
  at: { every: 'beat', afterSeconds: 2.6 },
};

test.each<[string, ReturnType<typeof heard>, object]>([
  ['only the count-off', heard(1.9), none],
  ['not quite a bar', heard(3.9), none],
  ['a bar to its end', heard(4), { wholeBars: 1, barIndex: 0, bars: 1 }],
  ['a repeated bar is one written bar', heard(8.2), { wholeBars: 3, barIndex: 0, bars: 2 }],
  ['from the middle', heard(6.1, 3), { wholeBars: 2, barIndex: 2, bars: 2 }],
  ['to the end, over the hold', heard(99, 3), { wholeBars: 3, barIndex: 2, bars: 3 }],
  ['round a loop', heard(20, 0, { loop: { from: 0, to: 1 } }), { wholeBars: 9, barIndex: 0, bars: 1 }],
  ['a bar that became slower in it, not yet over', heard(4.4, 0, {}, slower), none],
  ['the same, over', heard(5.1, 0, {}, slower), { wholeBars: 1, barIndex: 0, bars: 1 }],
])('%s', (_name, result, expected) => {
  expect(result).toEqual(expected);
});

const stop: RunCommand = { kind: 'stopAtBarEnd', afterSeconds: 4.5 };
test.each<[string, ReturnType<typeof planned>, number, boolean]>([
  ['from its beginning', planned(), 99, true],
  ['from its last bar', planned(5), 99, true],
  ['stopped shortly before', planned(5), 3.9, false],
  ['stopped at the end of a bar in the middle', planned(0, {}, stop), 99, false],
  ['up to what is left out at the end', planned(0, { leftOut: [{ from: 4, to: 6 }] }), 99, true],
  ['with a passage left out', planned(0, { leftOut: [{ from: 1, to: 3 }] }), 99, true],
  ['round a loop, without end', planned(0, { loop: { from: 4, to: 6 } }), 99, false],
])('heard to the end of the piece: %s', (_name, plan, until, isToEnd) => {
  expect(isHeardToEnd(proof, plan, Math.min(until, plan.lengthSeconds))).toBe(isToEnd);
});
