import type { CountSchool } from './countWord.ts';
import { beatThenParts } from './schools/beatThenParts.ts';
import { grouped } from './schools/grouped.ts';
import { oddShown } from './schools/oddShown.ts';
import { plainNumerals } from './schools/plainNumerals.ts';
import { quartersWithAnd, sixteenthSyllables } from './schools/syllables.ts';
import { unitNumerals } from './schools/unitNumerals.ts';

/** Every school of counting, listed once; the first is the default. */
export const COUNT_SCHOOLS: readonly [CountSchool, ...CountSchool[]] = [
  plainNumerals,
  oddShown,
  unitNumerals,
  beatThenParts,
  grouped,
  quartersWithAnd,
  sixteenthSyllables,
];

/** The school with an id, or null where there is none. */
export function countSchoolMaybe(id: string): CountSchool | null {
  return COUNT_SCHOOLS.find((school) => school.id === id) ?? null;
}
