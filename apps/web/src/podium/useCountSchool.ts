import { COUNT_SCHOOLS } from '@anchorbeat/core';
import { Kept, useKept } from '../kept/kept.ts';
import { nextOf } from '../ui/nextOf.ts';

const USUAL = 'odd-shown';
const IDS = COUNT_SCHOOLS.map(({ id }) => id);

const keptSchool = new Kept('anchorbeat.countSchool', (stored) => IDS.find((id) => id === stored) ?? USUAL);

/** The school the bar is counted in at the podium, kept in this browser, and what goes on to the next one. */
export function useCountSchool(): readonly [string, () => void] {
  const [id, setId] = useKept(keptSchool);
  return [id, () => setId(nextOf(IDS, id))];
}
