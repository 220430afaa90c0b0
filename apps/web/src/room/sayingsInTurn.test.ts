import { beforeEach, expect, test } from '@jest/globals';
import {
  EMPTY_ROOM,
  PLAIN_RUN,
  roomAfter,
  seededRandom,
  type RoomAct,
  type RoomState,
  type RunSaying,
} from '@anchorbeat/core';
import { SayingsInTurn } from './sayingsInTurn.ts';

/** What is on its way to the server, in order: it is there once `arrive` is called, and answered with that. */
let underWay: { readonly known: number; readonly saying: RunSaying; readonly arrive: () => void }[];
let room: RoomState;
let sayings: SayingsInTurn;
let refused: string[];

const PIECE = { pieceId: 'piece', revision: 1, title: 'T', settings: PLAIN_RUN, performed: 0, call: null };
const moment = { nowMs: 5000, leadMs: 400 };
const percent = (value: number): RunSaying => ({
  kind: 'change',
  settings: { percent: value },
  every: 'beat',
});
const commands = () => room.run!.session.commands;
const settled = () => new Promise((resolve) => setImmediate(resolve));

/** What somebody does in the room; rejects as the server refuses. */
function act(done: RoomAct): Promise<void> {
  const result = roomAfter(room, done, moment);
  if (result.ok) room = result.value;
  return result.ok ? Promise.resolve() : Promise.reject(new Error(result.problem.message));
}

const say = (saying: RunSaying, known = commands().length) =>
  sayings.say('run', known, saying).catch(({ message }: Error) => void refused.push(message));

async function arriveAll(): Promise<void> {
  for (await settled(); underWay.length > 0; await settled()) underWay.shift()!.arrive();
}

beforeEach(async () => {
  underWay = [];
  refused = [];
  room = EMPTY_ROOM;
  await act({ kind: 'start', runId: 'run', ...PIECE });
  sayings = new SayingsInTurn(
    (runId, known, saying) =>
      new Promise((resolve) => {
        const arrive = () => resolve(act({ kind: 'say', runId, known, saying }));
        underWay.push({ known, saying, arrive });
      }),
  );
});

test('pressed again and again faster than the server answers, all of it holds, in two commands', async () => {
  for (const value of [95, 90, 85, 80]) void say(percent(value));
  expect(underWay).toHaveLength(1);
  void say({ kind: 'change', settings: { spoken: 'everything' }, every: 'beat' });
  await arriveAll();
  expect(refused).toEqual([]);
  expect(commands().slice(1)).toMatchObject([
    { settings: { percent: 95 } },
    { settings: { percent: 80, spoken: 'everything' } },
  ]);
});

test('what is seen before its answer has come is not counted twice', async () => {
  void say(percent(95));
  const [first] = underWay.splice(0);
  first!.arrive();
  void say(percent(90), 2);
  await settled();
  await arriveAll();
  expect([refused, commands().length]).toEqual([[], 3]);
});

test('what was said against something unseen is refused, told once, and nothing said after it holds', async () => {
  void say(percent(95));
  void say({ kind: 'stopAtBarEnd' });
  void say(percent(90));
  void say(percent(85));
  await act({ kind: 'say', runId: 'run', known: 1, saying: percent(60) });
  await arriveAll();
  expect(refused).toEqual([expect.stringMatching(/^Somebody else has changed this run/)]);
  expect(commands().slice(1)).toMatchObject([{ settings: { percent: 60 } }]);
  void say(percent(65));
  await arriveAll();
  expect(commands().at(-1)).toMatchObject({ settings: { percent: 65 } });
  expect(refused).toHaveLength(1);
  void say({ kind: 'goOn' });
  for (const value of [70, 75]) void say(percent(value));
  await act({ kind: 'say', runId: 'run', known: 3, saying: percent(60) });
  underWay.shift()!.arrive();
  await settled();
  expect([refused.length, underWay]).toEqual([2, []]);
});

test('a stop waits for nobody, and what waited is not said any more', async () => {
  void say(percent(95));
  void say(percent(90));
  void say({ kind: 'stop' });
  expect(underWay.map(({ saying }) => saying.kind)).toEqual(['change', 'stop']);
  await arriveAll();
  expect(commands().map(({ kind }) => kind)).toEqual(['start', 'change', 'stop']);
  expect(refused).toEqual([]);
});

test('what waits for a run that has begun since is said, though the last one to the run before was refused', async () => {
  void say(percent(95));
  await act({ kind: 'start', runId: 'next', ...PIECE });
  const answer = sayings.say('next', 1, percent(80));
  await arriveAll();
  await answer;
  expect(refused).toEqual([expect.stringMatching(/^Another run has begun/)]);
  expect(commands().at(-1)).toMatchObject({ settings: { percent: 80 } });
});

test('one hand alone is never refused, however its presses and the answers fall', async () => {
  const random = seededRandom(20_261_203);
  for (let round = 0; round < 60; round++) {
    let wanted = 100;
    const before = commands().length;
    let cues = 0;
    for (let step = 0; step < 12; step++) {
      const dice = random();
      if (dice < 0.5) void say(percent((wanted = 50 + Math.floor(random() * 100))));
      else if (dice < 0.6) {
        cues++;
        void say({ kind: 'cue' });
      } else if (dice < 0.8) underWay.shift()?.arrive();
      else await settled();
    }
    await arriveAll();
    void say(percent(wanted));
    await arriveAll();
    const added = commands().slice(before);
    expect(added.at(-1)).toMatchObject({ settings: { percent: wanted } });
    expect(added.filter(({ kind }) => kind === 'cue')).toHaveLength(cues);
  }
  expect(refused).toEqual([]);
});
