import { shownKey, type Act } from './act.ts';

/** The acts whose words hold every word that is sought, or whose key it is; all where nothing is sought. */
export function foundActs(acts: readonly Act[], sought: string): readonly Act[] {
  const words = sought.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return acts;
  return acts.filter(({ name, label = '', state = '', group, key }) => {
    const text = `${name} ${label} ${state} ${group}`.toLowerCase();
    return (
      shownKey(key).toLowerCase() === sought.trim().toLowerCase() ||
      words.every((word) => text.includes(word))
    );
  });
}
