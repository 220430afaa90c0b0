import { hasWords } from '../ui/hasWords.ts';
import { shownKey, type Act } from './act.ts';

/** The acts whose words hold every word that is sought, or whose key it is; all where nothing is sought. */
export function foundActs(acts: readonly Act[], sought: string): readonly Act[] {
  return acts.filter(
    ({ name, label = '', state = '', group, key }) =>
      shownKey(key).toLowerCase() === sought.trim().toLowerCase() ||
      hasWords(`${name} ${label} ${state} ${group}`, sought),
  );
}
