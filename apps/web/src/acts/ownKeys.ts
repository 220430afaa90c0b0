import { browserTexts, Kept } from '../kept/kept.ts';
import { PEDAL_KEYS, type Act } from './act.ts';

/** Keys of one's own, by the id of their act; an empty one is none. What is left out keeps its key. */
export type OwnKeys = Readonly<Record<string, string>>;

/** As they are kept in this browser: the keys, and whether single characters act at all. */
export interface KeySettings {
  readonly own: OwnKeys;
  readonly singleKeys: boolean;
}

export const PLAIN_KEYS: KeySettings = { own: {}, singleKeys: true };

export const keptKeys = new Kept<KeySettings>('anchorbeat.keys', (stored) => {
  const { own, singleKeys } = (stored ?? { own: podiumKeysOfOld() }) as Partial<KeySettings>;
  const pairs = Object.entries(own ?? {}).filter(([, key]) => typeof key === 'string');
  return { own: Object.fromEntries(pairs), singleKeys: singleKeys !== false };
});

export function keyOf({ id, key }: Pick<Act, 'id' | 'key'>, own: OwnKeys): string {
  return own[id] ?? key;
}

/**
 * The act of a list that a key is for: one that was given it, else one whose own it is, else one it is a further key of, else
 * the pedal's, unless the pedal was given to another. Null where it is for none of them.
 */
export function actOfKeyMaybe(acts: readonly Act[], key: string, own: OwnKeys): Act | null {
  const isGiven = ({ id }: Act) => own[id] === key;
  const isUsual = ({ id, key: usual }: Act) => own[id] === undefined && usual === key;
  const isFurther = ({ alsoKeys }: Act) => alsoKeys?.includes(key) ?? false;
  const isPedal = ({ pedal }: Act) => pedal !== undefined && PEDAL_KEYS[pedal].includes(key);
  if (key === '') return null;
  for (const is of [isGiven, isUsual, isFurther, isPedal]) {
    const act = acts.find(is);
    if (act) return act;
  }
  return null;
}

/** Gives an act a key, or none. The act among its neighbours that had it takes the other's in exchange. */
export function withKey(acts: readonly Act[], own: OwnKeys, act: Act, key: string): OwnKeys {
  const before = key === '' ? null : acts.find((other) => other.id !== act.id && keyOf(other, own) === key);
  return { ...own, ...(before && { [before.id]: keyOf(act, own) }), [act.id]: key };
}

/** Keys of one's own were kept for the podium alone once. */
function podiumKeysOfOld(): OwnKeys {
  const old = new Kept('anchorbeat.podiumKeys', (stored) => (stored ?? {}) as OwnKeys, browserTexts).get();
  return Object.fromEntries(Object.entries(old).map(([act, key]) => [`podium.${act}`, key]));
}
