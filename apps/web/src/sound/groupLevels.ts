import { MOST_GROUP_LEVEL, SOUND_GROUPS, type SoundGroup } from '@anchorbeat/audio';

const KEY = 'anchorbeat.soundLevels';

export type GroupLevels = Readonly<Record<SoundGroup, number>>;

/** How loud each group of sounds is against the others, 1 as designed; kept in this browser. */
export function storedGroupLevels(): GroupLevels {
  const plain = Object.fromEntries(SOUND_GROUPS.map((group) => [group, 1])) as Record<SoundGroup, number>;
  try {
    const stored = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Record<string, unknown>>;
    for (const group of SOUND_GROUPS) {
      const level = stored[group];
      if (typeof level === 'number' && level >= 0 && level <= MOST_GROUP_LEVEL) plain[group] = level;
    }
  } catch {
    // What is stored does not read: the sounds are as designed.
  }
  return plain;
}

export function storeGroupLevels(levels: GroupLevels): void {
  localStorage.setItem(KEY, JSON.stringify(levels));
}
