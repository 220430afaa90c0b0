import {
  pieceToPlan,
  readPiece,
  rehearsedSeams,
  type LoggedCorrection,
  type PieceToPlan,
  type RehearsedSeam,
} from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import { useEffect, useState } from 'react';
import { compileInWorker } from '../compiled/compileInWorker.ts';
import { placedRun, type PlacedRun } from '../seams/placedRun.ts';
import { api } from '../store/api.ts';
import { sendWaitingRuns } from '../store/runLog.ts';
import { useAppDispatch, type AppDispatch } from '../store/store.ts';

export interface ProgrammePiece {
  readonly toPlan: PieceToPlan;
  readonly runs: readonly PlacedRun[];
  /** Its seams, each with the runs that went over it. */
  readonly seams: readonly RehearsedSeam[];
  /** What was put right in it. */
  readonly corrections: readonly LoggedCorrection[];
}

/** Every piece of the shelf with what its log tells; null until all are worked out. */
export function useProgramme(pieces: readonly PieceResponse[] | undefined): readonly ProgrammePiece[] | null {
  const dispatch = useAppDispatch();
  const [programme, setProgramme] = useState<readonly ProgrammePiece[] | null>(null);
  const [hasSent, setSent] = useState(false);
  // Runs that the server has not heard of yet are in the log once it has.
  useEffect(() => void sendWaitingRuns(dispatch).then(setSent), [dispatch]);
  useEffect(() => {
    if (!pieces) return undefined;
    let isWanted = true;
    void Promise.all(pieces.map((response) => planned(dispatch, response))).then((all) => {
      if (isWanted) setProgramme(all.flatMap((piece) => piece ?? []));
    });
    return () => {
      isWanted = false;
    };
  }, [pieces, dispatch, hasSent]);
  return programme;
}

/** A piece that cannot be read or worked out is left out of the plan; its own screens say why. */
async function planned(dispatch: AppDispatch, { id, piece }: PieceResponse): Promise<ProgrammePiece | null> {
  const reading = readPiece(piece);
  if (!reading.ok) return null;
  const asked = dispatch(api.endpoints.listRuns.initiate(id, { forceRefetch: true, subscribe: false }));
  const [compiled, { data = [] }] = await Promise.all([
    compileInWorker(reading.piece).catch(() => null),
    asked,
  ]);
  if (!compiled) return null;
  const runs = data.map(placedRun);
  const proof = { piece: reading.piece, compiled };
  return {
    toPlan: pieceToPlan(proof, { pieceId: id, runs }),
    runs,
    seams: rehearsedSeams(proof, runs),
    corrections: reading.piece.corrections ?? [],
  };
}
