import type { RunResponse } from '@anchorbeat/contract';
import { useProof } from '../piece/PieceLayout.tsx';
import { useGetRunQuery } from '../store/api.ts';
import { useAppSelector } from '../store/store.ts';
import { TakeSheet } from './TakeSheet.tsx';
import { useEarlierTake } from './useEarlierTake.ts';
import { useRemedy } from './useRemedy.ts';

/** The take of a run in the log. */
export function KeptTake({ run, onClose }: { readonly run: RunResponse; readonly onClose: () => void }) {
  const proof = useProof();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const { data } = useGetRunQuery({ pieceId, id: run.id });
  const before = useEarlierTake(
    run.take ? { runId: run.id, pieceId, percent: run.percent, take: run.take } : null,
  );
  const remedy = useRemedy();
  if (!data?.take) return null;
  return (
    <TakeSheet
      proof={proof}
      take={data.take}
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
