import { howMany, LOCKED_MS } from '@anchorbeat/core';
import type { StandPresence } from '@anchorbeat/contract';

/** The sections of the ensemble, and any that somebody joined as besides. */
export function sectionsIn(sections: readonly string[], stands: readonly StandPresence[]): readonly string[] {
  return [...new Set([...sections, ...stands.map(({ section }) => section)])];
}

/** What one wants to know of a stand at a glance. */
export function presenceWords(stand: StandPresence): { readonly words: string; readonly isWell: boolean } {
  const { state, withinMs, isConnected, silentSeconds, isSeen } = stand;
  if (!isConnected) return { words: `lost ${silentSeconds} s ago`, isWell: false };
  if (withinMs === null) return { words: state, isWell: false };
  const within = `within ${Math.max(1, Math.ceil(withinMs))} ms`;
  const unseen = isSeen ? '' : ', its screen is off';
  return {
    words: `${state}, ${within}${unseen}`,
    isWell: withinMs < LOCKED_MS && state !== 'silent: poor lock',
  };
}

/** "7 stands, all locked", "7 stands, 2 of them not locked", "nobody yet". */
export function standsWords(stands: readonly StandPresence[]): string {
  if (stands.length === 0) return 'Nobody yet: show the code';
  const unwell = stands.filter((stand) => !presenceWords(stand).isWell).length;
  const count = howMany(stands.length, 'stand');
  return unwell === 0 ? `${count}, all locked` : `${count}, ${unwell} not locked`;
}
