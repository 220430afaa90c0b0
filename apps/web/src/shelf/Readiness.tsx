import { pieceReadinessMaybe, readinessOf, type Proof } from '@anchorbeat/core';
import { useMemo } from 'react';
import { placedRun } from '../seams/placedRun.ts';
import { useListRunsQuery } from '../store/api.ts';

/** How ready a piece is by its log, and how much of it nobody knows yet. */
export function Readiness({ pieceId, proof }: { readonly pieceId: string; readonly proof: Proof }) {
  const { data } = useListRunsQuery(pieceId, { refetchOnMountOrArgChange: true });
  const seams = useMemo(() => readinessOf(proof.compiled, (data ?? []).map(placedRun)), [proof, data]);
  const ready = pieceReadinessMaybe(seams);
  if (!data || ready === null) return null;
  const never = seams.filter(({ runs }) => runs === 0).length;
  if (never === seams.length) return <span className="text-quiet">never run</span>;
  return (
    <span className="whitespace-nowrap">
      <b className="numeral text-carry-text">{Math.round(100 * ready)} %</b> ready
      {never > 0 && (
        <span className="text-quiet">
          , {never} of {seams.length} seams never run
        </span>
      )}
    </span>
  );
}
