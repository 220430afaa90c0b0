import type { TakeRecord } from '@anchorbeat/core';
import { useGetRunQuery, useListRunsQuery } from '../store/api.ts';
import { dayText } from '../ui/dayText.ts';
import { takeOf } from './takeOf.ts';
import type { EarlierTake } from './TakeSheet.tsx';
import { useProofThen } from './useProofThen.ts';

/** A take that is looked at, with its seams where they are now. */
interface LookedAt {
  readonly runId: string;
  readonly pieceId: string;
  readonly take: Pick<TakeRecord, 'seams'>;
}

/** The last take of the same section made before one that is looked at, over one of its seams; null where there is none. */
export function useEarlierTake(told: LookedAt | null, section: string | null = null): EarlierTake | null {
  const pieceId = told?.pieceId ?? '';
  const { data: runs = [] } = useListRunsQuery(pieceId, { skip: told === null });
  const seams = new Set(told?.take.seams.map(({ barIndex }) => barIndex));
  const at = runs.findIndex(({ id }) => id === told?.runId);
  const earlier = (at < 0 ? runs : runs.slice(0, at)).findLast(
    (run) =>
      run.id !== told?.runId && takeOf(run, section)?.seams.some(({ barIndex }) => seams.has(barIndex)),
  );
  const { data: run } = useGetRunQuery({ pieceId, id: earlier?.id ?? '' }, { skip: !earlier });
  const then = useProofThen(earlier?.revision ?? null);
  const take = run && takeOf(run, section);
  const listed = earlier && takeOf(earlier, section);
  if (!run || !take || !listed || !then) return null;
  const { startedAt, percent } = run;
  return { when: dayText(new Date(startedAt)), take: { ...take, seams: listed.seams }, percent, proof: then };
}
