import type { EnsembleResponse } from '@anchorbeat/contract';
import { useState } from 'react';
import { toast } from '../ui/toast.ts';
import { useKeepPiece } from '../piece/useKeepPiece.ts';
import { BLANK_INTAKE, pieceFromIntake } from './intake.ts';

interface Beginnings {
  /** The pieces of the demo, on this shelf. */
  readonly demo: () => void;
  /** A new piece, with its words open to be written. */
  readonly words: () => void;
  /** One of them is under way. */
  readonly isBusy: boolean;
}

/** Ways to a first piece besides a file and its first page. */
export function useBeginnings(ensemble: EnsembleResponse | undefined): Beginnings {
  const { keep, put } = useKeepPiece(ensemble, () => undefined);
  const [isBusy, setBusy] = useState(false);
  const begin = async (work: () => Promise<void>) => {
    setBusy(true);
    await work().catch((error: unknown) => toast((error as Error).message));
    setBusy(false);
  };
  return {
    isBusy,
    demo: () =>
      void begin(async () => {
        const { demoPieces } = await import('./demoPieces.ts');
        for (const piece of await demoPieces()) {
          const problem = await put(piece);
          if (problem !== null) throw new Error(problem);
        }
      }),
    words: () =>
      void begin(async () => {
        const blank = pieceFromIntake({ ...BLANK_INTAKE, bars: '1' }, ensemble?.sections ?? []);
        if (!blank.ok) throw new Error(blank.problem.message);
        const problem = await keep(blank.value, '?panel=words');
        if (problem !== null) throw new Error(problem);
      }),
  };
}
