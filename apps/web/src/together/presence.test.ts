import { describe, expect, test } from '@jest/globals';
import type { StandPresence } from '@anchorbeat/contract';
import { presenceWords, sectionsIn, standsWords } from './presence.ts';

const stand = (changes: Partial<StandPresence> = {}): StandPresence => ({
  standId: 'a',
  section: 'Reeds',
  name: '',
  state: 'ready',
  withinMs: 0.4,
  slowRoundTripMs: 9,
  latencyMs: 20,
  isSeen: true,
  isConnected: true,
  silentSeconds: 0,
  ...changes,
});

describe('how a stand is told to who leads', () => {
  test.each<[Partial<StandPresence>, string, boolean]>([
    [{}, 'ready, within 1 ms', true],
    [{ withinMs: 1.9, state: 'playing', isSeen: false }, 'playing, within 2 ms, its screen is off', true],
    [{ withinMs: 3.2 }, 'ready, within 4 ms', false],
    [{ withinMs: null, state: 'locking' }, 'locking', false],
    [{ state: 'silent: poor lock' }, 'silent: poor lock, within 1 ms', false],
    [{ isConnected: false, silentSeconds: 12 }, 'lost 12 s ago', false],
  ])('%j: %s', (changes, words, isWell) => {
    expect(presenceWords(stand(changes))).toEqual({ words, isWell });
  });

  test('all of them in a few words, and every section that somebody plays', () => {
    expect(standsWords([])).toMatch(/Nobody/);
    expect(standsWords([stand()])).toBe('1 stand, all locked');
    expect(standsWords([stand(), stand({ isConnected: false })])).toBe('2 stands, 1 not locked');
    expect(sectionsIn(['Reeds', 'Drums'], [stand({ section: 'Kazoos' }), stand()])).toEqual([
      'Reeds',
      'Drums',
      'Kazoos',
    ]);
  });
});
