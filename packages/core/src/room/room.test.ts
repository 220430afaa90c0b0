import { describe, expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { richPiece } from '../test/richPiece.ts';
import { proofOf } from '../compile/compile.ts';
import { clicksIn } from '../run/clicksIn.ts';
import { beatsIn } from '../run/beatsIn.ts';
import { runOf } from '../run/session.ts';
import { PLAIN_RUN } from '../run/settings.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { heardSession, HEARINGS } from './hearing.ts';
import { isCode, typedCode } from './joinCode.ts';
import { mayDo, ROLE_ACTIONS, ROLES, type Role, type RoleAction } from './roles.ts';
import { EMPTY_ROOM, hearingOf, leadMsFor, roomAfter, type RoomAct, type RoomState } from './room.ts';

const start: RoomAct = {
  kind: 'start',
  runId: 'run 1',
  pieceId: 'piece',
  revision: 3,
  title: 'from bar 2',
  settings: PLAIN_RUN,
  performed: 1,
  call: null,
};

function roomWith(...acts: ReadonlyArray<readonly [act: RoomAct, nowMs: number]>): RoomState {
  return acts.reduce((room, [act, nowMs]) => {
    const result = roomAfter(room, act, { nowMs, leadMs: 500 });
    if (!result.ok) throw new Error(result.problem.message);
    return result.value;
  }, EMPTY_ROOM);
}

const say = (
  known: number,
  saying: Extract<RoomAct, { kind: 'say' }>['saying'],
  runId = 'run 1',
): RoomAct => ({
  kind: 'say',
  runId,
  known,
  saying,
});

test('what is called before a run is part of it for every device, and where it cannot be said nothing sounds for it', () => {
  const called = roomWith([{ ...start, call: 'speak the count' }, 1000]).run!;
  const proof = proofOf(pieceOf({ meter: '4/4', tempo: [{ tempo: 'quarter = 60' }] }, {}, {}));
  const plan = runOf(proof, called.session).plan!;
  const [first, second] = clicksIn(proof, plan, { fromSeconds: 0, toSeconds: 10 });
  expect(first).toMatchObject({ timeSeconds: 0, word: 'speak the count', isOnlySaid: true });
  expect(second).toMatchObject({ timeSeconds: 1.5, kind: 'countoffDownbeat' });
  const uncalled = runOf(proof, roomWith([start, 1000]).run!.session).plan!;
  expect(uncalled.lengthSeconds).toBeCloseTo(plan.lengthSeconds - 1.5, 9);
});

describe('who may do what', () => {
  const table: Readonly<Record<RoleAction, string>> = {
    keepPieces: 'director coDirector',
    seeMembers: 'director coDirector',
    keepMembers: 'director',
    keepRoom: 'director coDirector',
    lead: 'director',
    keepOwnStand: 'director coDirector stand',
    readShared: 'director coDirector stand',
  };
  test.each(ROLE_ACTIONS.flatMap((action) => ROLES.map((role) => [role, action] as const)))(
    '%s: %s',
    (role: Role, action: RoleAction) => {
      expect(mayDo(role, action)).toBe(table[action].split(' ').includes(role));
    },
  );

  test('a co-director leads where the director lets them, and nobody else does by that', () => {
    expect(ROLES.map((role) => mayDo(role, 'lead', { coDirectorsLead: true }))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});

describe('a run in a room', () => {
  test('begins a lead after it was asked for, and carries the piece with it', () => {
    const { run, open } = roomWith([start, 10_000]);
    expect(run).toMatchObject({ id: 'run 1', startServerMs: 10_500 });
    expect(open).toEqual({ pieceId: 'piece', revision: 3 });
  });

  test('what is said holds a lead after it was said; a stop holds at once', () => {
    const room = roomWith(
      [start, 10_000],
      [say(1, { kind: 'change', settings: { percent: 80 }, every: 'bar' }), 14_000],
      [say(2, { kind: 'stopAtBarEnd' }), 15_000],
      [say(3, { kind: 'stop' }), 16_000],
    );
    expect(room.run?.session.commands.slice(1)).toEqual([
      { kind: 'change', settings: { percent: 80 }, at: { every: 'bar', afterSeconds: 4 } },
      { kind: 'stopAtBarEnd', afterSeconds: 5 },
      { kind: 'stop', atSeconds: 5.5 },
    ]);
  });

  test.each<[string, RoomAct]>([
    ['of a run that is no more', say(1, { kind: 'cue' }, 'run 0')],
    ['from somebody who has not seen the last command', say(0, { kind: 'cue' })],
  ])('a message %s is refused with a reason', (_name, act) => {
    const result = roomAfter(roomWith([start, 0]), act, { nowMs: 9000, leadMs: 400 });
    expect(result.ok ? '' : result.problem.message).toMatch(/meanwhile/);
  });

  test('a stop needs not know what came before it', () => {
    const room = roomWith([start, 0], [say(1, { kind: 'goOn' }), 2000]);
    expect(roomAfter(room, say(1, { kind: 'stop' }), { nowMs: 5000, leadMs: 400 }).ok).toBe(true);
  });

  test.each([
    [[], 400],
    [[20, 60], 400],
    [[20, 250], 750],
    [[9000], 4000],
  ])('round trips of %j want a lead of %d ms', (trips, lead) => {
    expect(leadMsFor(trips)).toBe(lead);
  });
});

describe('what a section hears', () => {
  test('its own, the pulse where nothing is said, nothing while others sound alone or all are muted', () => {
    const room = roomWith([{ kind: 'hear', section: 'Reeds', hearing: 'carry' }, 0]);
    expect(['Reeds', 'Drums'].map((section) => hearingOf(room, section))).toEqual(['carry', 'pulse']);
    const alone = roomWith([{ kind: 'alone', sections: ['Reeds'] }, 0]);
    expect(['Reeds', 'Drums'].map((section) => hearingOf(alone, section))).toEqual(['pulse', 'nothing']);
    const muted = roomWith([{ kind: 'mute', isMuted: true }, 0]);
    expect(hearingOf(muted, 'Reeds')).toBe('nothing');
  });

  test('the beats of a run are the same however it is heard, with all that was said to it', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const proof = proofOf(richPiece(seed, 30));
      const random = seededRandom(seed);
      const { run } = roomWith(
        [start, 0],
        [
          say(1, { kind: 'change', settings: { percent: 60 + Math.round(80 * random()) }, every: 'beat' }),
          4000,
        ],
        [say(2, { kind: 'change', settings: { clickOn: 'subdivision' }, every: 'bar' }), 6000],
      );
      const window = { fromSeconds: 0, toSeconds: 40 };
      const plain = runOf(proof, run!.session).plan!;
      for (const hearing of HEARINGS) {
        const heard = runOf(proof, heardSession(run!.session, hearing)).plan!;
        const times = (plan: typeof plain) => beatsIn(proof, plan, window).map((beat) => beat.runSeconds);
        expect(times(heard)).toEqual(times(plain));
        if (hearing === 'anchors')
          expect(clicksIn(proof, heard, window).length).toBeLessThan(clicksIn(proof, plain, window).length);
      }
    }
  });
});

test('a code is read however it is typed', () => {
  expect(isCode(typedCode(' acd-efg '))).toBe(true);
  expect(['ACDEF', 'ACDEFO', 'ACDEF1', ''].map((text) => isCode(typedCode(text)))).toEqual([
    false,
    false,
    false,
    false,
  ]);
});
