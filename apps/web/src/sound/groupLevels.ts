import { MOST_GROUP_LEVEL, SOUND_GROUPS, type SoundGroup } from '@anchorbeat/audio';
import { Kept } from '../kept/kept.ts';

export type GroupLevels = Readonly<Record<SoundGroup, number>>;

/** How loud each group of sounds is against the others, 1 as designed; kept in this browser. */
export const keptGroupLevels = new Kept<GroupLevels>('anchorbeat.soundLevels', (stored) => {
  const levels = (stored ?? {}) as Partial<Record<string, unknown>>;
  const levelOf = (group: SoundGroup) => {
    const level = levels[group];
    return typeof level === 'number' && level >= 0 && level <= MOST_GROUP_LEVEL ? level : 1;
  };
  return Object.fromEntries(SOUND_GROUPS.map((group) => [group, levelOf(group)])) as GroupLevels;
});
