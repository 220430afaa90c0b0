import {
  playsAround,
  SEAM_KINDS,
  seamDetails,
  type SeamKind,
  type SeamReadiness,
  writtenIndex,
} from '@anchorbeat/core';
import { useMemo } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import type { SeamWishes } from './seamWishes.ts';
import type { ToldSeam } from './target.ts';

/** From here on a seam counts as ready. */
const READY = 0.9;

interface ToldSeams {
  readonly seams: readonly ToldSeam[];
  /** Kinds that the piece has, filtered or not. */
  readonly kinds: readonly SeamKind[];
}

/** The seams by written bar, each once, as they are asked for. */
export function useToldSeams(
  { order, kind, section, rehearsed }: SeamWishes,
  records: ReadonlyMap<number, SeamReadiness>,
): ToldSeams {
  const proof = useProof();
  const { piece } = proof;
  const all = useMemo(() => {
    const byBar = new Map<number, ToldSeam>();
    for (const seam of proof.compiled.seams) {
      const barIndex = writtenIndex(proof, seam.performed);
      if (byBar.has(barIndex)) continue;
      byBar.set(barIndex, { seam, barIndex, details: seamDetails(proof, seam) });
    }
    return [...byBar.values()].sort((a, b) => a.barIndex - b.barIndex);
  }, [proof]);
  const kinds = useMemo(
    () => SEAM_KINDS.filter((known) => all.some(({ details }) => details.kind === known)),
    [all],
  );
  const seams = useMemo(() => {
    const readiness = ({ barIndex }: ToldSeam) => records.get(barIndex)?.readiness ?? null;
    const wanted = all.filter(
      (told) =>
        (kind === null || told.details.kind === kind) &&
        (section === null || playsAround(piece, section, told.barIndex)) &&
        (rehearsed !== 'not yet rehearsed' || (records.get(told.barIndex)?.runs ?? 0) === 0) &&
        (rehearsed !== 'not yet ready' || (readiness(told) ?? 0) < READY),
    );
    if (order === 'in order') return wanted;
    const need = (told: ToldSeam) =>
      told.seam.difficulty.score * (order === 'worst first' ? 1 : 1 - (readiness(told) ?? 0));
    return [...wanted].sort((a, b) => need(b) - need(a));
  }, [all, piece, records, order, kind, section, rehearsed]);
  return { seams, kinds };
}
