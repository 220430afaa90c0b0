import {
  accepted,
  equivalencesBetween,
  formatFraction,
  formatNumber,
  parseEquivalence,
  parseStatedTempo,
  refused,
  tempoAfter,
  tempoBefore,
  type Equivalence,
  type EquivalenceBetween,
  type Fraction,
  type Result,
  type StatedTempo,
} from '@anchorbeat/core';

/** Which of the three is worked out from the other two. */
export type Unknown = 'old' | 'equivalence' | 'next';

/** What stands in the builder's lines, as typed. */
export interface BuilderFields {
  readonly oldUnit: string;
  readonly oldBpm: string;
  readonly before: string;
  readonly after: string;
  readonly nextUnit: string;
  readonly nextBpm: string;
}

export interface Solution {
  readonly old: StatedTempo;
  readonly next: StatedTempo;
  /** Null where no equivalence comes near enough to be heard as one. */
  readonly equivalence: Equivalence | null;
  /** By how much the new tempo misses what the equivalence gives exactly; 0 where it is exact. */
  readonly missRatio: number;
  /** The equivalences to choose from, where that is what was asked. */
  readonly offered: readonly EquivalenceBetween[];
}

/** Works out the third of old tempo, equivalence and new tempo, or says which line does not read. */
export function solve(fields: BuilderFields, unknown: Unknown, chosen = 0): Result<Solution> {
  const old = parseStatedTempo(`${fields.oldUnit} = ${unknown === 'old' ? '60' : fields.oldBpm}`);
  if (!old.ok) return refused(`Old tempo: ${old.problem.message}`);
  const next = parseStatedTempo(`${fields.nextUnit} = ${unknown === 'next' ? '60' : fields.nextBpm}`);
  if (!next.ok) return refused(`New tempo: ${next.problem.message}`);
  if (unknown === 'equivalence') return accepted(betweenTempi(old.value, next.value, chosen));
  const equivalence = parseEquivalence(`${fields.before} = ${fields.after}`);
  if (!equivalence.ok) return refused(`Note = note: ${equivalence.problem.message}`);
  const known = { equivalence: equivalence.value, missRatio: 0, offered: [] };
  return accepted(
    unknown === 'next'
      ? { ...known, old: old.value, next: tempoAfter(old.value, equivalence.value, next.value.unit) }
      : { ...known, old: tempoBefore(next.value, equivalence.value, old.value.unit), next: next.value },
  );
}

function betweenTempi(old: StatedTempo, next: StatedTempo, chosen: number): Solution {
  const offered = equivalencesBetween(old, next);
  const taken = offered[Math.min(chosen, offered.length - 1)];
  return {
    old,
    next,
    equivalence: taken ? { before: taken.before, after: taken.after } : null,
    missRatio: taken?.missRatio ?? 0,
    offered,
  };
}

/** "64", or where no short decimal says it, "64.286, exactly 450/7". */
export function exactBpmWords(bpm: Fraction): string {
  const isShort = Number.isInteger((bpm.n * 1000) / bpm.d);
  return isShort ? formatNumber(bpm) : `${(bpm.n / bpm.d).toFixed(3)}, exactly ${formatFraction(bpm)}`;
}

/** How far a new tempo is from the exact one, in words. */
export function missWords({ exact, missRatio }: EquivalenceBetween): string {
  if (missRatio === 0) return 'exactly';
  const percent = Math.abs(missRatio * 100);
  const size = percent < 0.1 ? 'a hair' : `${percent.toFixed(1)} %`;
  return `gives ${(exact.bpm.n / exact.bpm.d).toFixed(1)}; yours is ${size} ${missRatio > 0 ? 'faster' : 'slower'}`;
}
