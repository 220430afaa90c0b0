import { nextPlaceMaybe, pieceReadinessMaybe, pieceToPlan, readinessOf, type Proof } from '@anchorbeat/core';
import { useMemo, useState } from 'react';
import { placedRun } from '../seams/placedRun.ts';
import { useListRunsQuery } from '../store/api.ts';

/** How ready a piece is by its log, how much of it nobody knows yet, and what to do next. */
export function Readiness({ pieceId, proof }: { readonly pieceId: string; readonly proof: Proof }) {
  const { data } = useListRunsQuery(pieceId, { refetchOnMountOrArgChange: true });
  const [nowMs] = useState(() => Date.now());
  const { seams, next } = useMemo(() => {
    const runs = (data ?? []).map(placedRun);
    return {
      seams: readinessOf(proof.compiled, runs),
      next: nextPlaceMaybe(pieceToPlan(proof, { pieceId, runs }), nowMs),
    };
  }, [proof, data, pieceId, nowMs]);
  const ready = pieceReadinessMaybe(seams);
  if (!data || ready === null) return null;
  const never = seams.filter(({ runs }) => runs === 0).length;
  return (
    <>
      <span>
        {never === seams.length ? (
          <span className="text-quiet">never run</span>
        ) : (
          <>
            <b className="numeral text-carry-text">{Math.round(100 * ready)} %</b> ready
            {never > 0 && (
              <span className="text-quiet">
                , {never} of {seams.length} seams never run
              </span>
            )}
          </>
        )}
      </span>
      {next && (
        <span data-testid="next-place" className="basis-full sm:ml-8">
          next: <b>{next.name}</b>
          {next.why !== 'never run' && <span className="text-quiet">, {next.why}</span>}
        </span>
      )}
    </>
  );
}
