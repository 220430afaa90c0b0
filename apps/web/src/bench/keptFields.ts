import { BENCH_TOOLS, usualFields } from '@anchorbeat/core';
import { Kept } from '../kept/kept.ts';

/** What was typed last in each tool, by the tool's id and the field's. */
export type BenchFields = Readonly<Record<string, Readonly<Record<string, string>>>>;

const LONGEST = 400;

export const keptFields = new Kept<BenchFields>('anchorbeat.bench', (stored) => {
  const known = (typeof stored === 'object' && stored !== null ? stored : {}) as Record<string, unknown>;
  return Object.fromEntries(
    BENCH_TOOLS.map((tool) => {
      const typed = (known[tool.id] ?? {}) as Record<string, unknown>;
      const kept = Object.entries(usualFields(tool)).map(([id, usual]) => {
        const text = typed[id];
        return [id, typeof text === 'string' ? text.slice(0, LONGEST) : usual];
      });
      return [tool.id, Object.fromEntries(kept) as Record<string, string>];
    }),
  );
});
