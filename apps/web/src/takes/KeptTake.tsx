import type { RunResponse } from '@anchorbeat/contract';
import { useProof } from '../piece/PieceLayout.tsx';
import { useGetRunQuery } from '../store/api.ts';
import { useAppSelector } from '../store/store.ts';
import { TakeSheet } from './TakeSheet.tsx';
import { takeOf } from './takeOf.ts';
import { useEarlierTake } from './useEarlierTake.ts';
import { useRemedy } from './useRemedy.ts';

interface KeptTakeProps {
  readonly run: RunResponse;
  /** Whose at a stand; null for the one at the podium. */
  readonly section: string | null;
  readonly onClose: () => void;
}

/** A take of a run in the log. */
export function KeptTake({ run, section, onClose }: KeptTakeProps) {
  const proof = useProof();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const { data } = useGetRunQuery({ pieceId, id: run.id });
  const told = takeOf(run, section);
  const before = useEarlierTake(
    told ? { runId: run.id, pieceId, percent: run.percent, take: told } : null,
    section,
  );
  const remedy = useRemedy();
  const take = data && takeOf(data, section);
  if (!data || !take) return null;
  return (
    <TakeSheet
      proof={proof}
      take={take}
      percent={data.percent}
      before={before}
      onRemedy={(kind, barIndex) => {
        onClose();
        remedy(kind, barIndex);
      }}
      onClose={onClose}
    />
  );
}
