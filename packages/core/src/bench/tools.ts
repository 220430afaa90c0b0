import type { BenchTool } from './tool.ts';
import { fit } from './tools/fit.ts';
import { grouping } from './tools/grouping.ts';
import { limits } from './tools/limits.ts';
import { meterFinder } from './tools/meterFinder.ts';
import { overlay } from './tools/overlay.ts';
import { remeter } from './tools/remeter.ts';
import { respell } from './tools/respell.ts';
import { tempoChain } from './tools/tempoChain.ts';
import { tempoSums } from './tools/tempoSums.ts';

/** Every tool of the Bench, listed once. */
export const BENCH_TOOLS: readonly [BenchTool, ...BenchTool[]] = [
  tempoSums,
  tempoChain,
  respell,
  overlay,
  grouping,
  fit,
  remeter,
  meterFinder,
  limits,
];

/** What stands in the fields of a tool at first. */
export function usualFields({ fields }: BenchTool): Readonly<Record<string, string>> {
  return Object.fromEntries(fields.map(({ id, usual }) => [id, usual]));
}
