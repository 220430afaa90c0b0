import { useGetRunQuery, useListRunsQuery } from '../store/api.ts';
import type { ToldTake } from '../store/transportSlice.ts';
import { dayText } from '../ui/dayText.ts';
import { takeOf } from './takeOf.ts';
import type { EarlierTake } from './TakeSheet.tsx';

/** The last take of the same section made before one that is told, over one of its seams; null where there is none. */
export function useEarlierTake(
  told: Omit<ToldTake, 'isSimulated'> | null,
  section: string | null = null,
): EarlierTake | null {
  const pieceId = told?.pieceId ?? '';
  const { data: runs = [] } = useListRunsQuery(pieceId, { skip: told === null });
  const seams = new Set(told?.take.seams.map(({ barIndex }) => barIndex));
  const at = runs.findIndex(({ id }) => id === told?.runId);
  const earlier = (at < 0 ? runs : runs.slice(0, at)).findLast(
    (run) =>
      run.id !== told?.runId && takeOf(run, section)?.seams.some(({ barIndex }) => seams.has(barIndex)),
  );
  const { data: run } = useGetRunQuery({ pieceId, id: earlier?.id ?? '' }, { skip: !earlier });
  const take = run ? takeOf(run, section) : null;
  return run && take ? { when: dayText(new Date(run.startedAt)), take, percent: run.percent } : null;
}
