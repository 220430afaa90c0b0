import { useProof } from '../piece/PieceLayout.tsx';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { takeTold } from '../store/transportSlice.ts';
import { TakeSheet } from './TakeSheet.tsx';
import { useEarlierTake } from './useEarlierTake.ts';
import { useRemedy } from './useRemedy.ts';

/** The take of the run that has just ended, where somebody played along. */
export function ToldTake() {
  const proof = useProof();
  const dispatch = useAppDispatch();
  const told = useAppSelector((state) => state.transport.toldTake);
  const pieceId = useAppSelector((state) => state.piece.open?.id);
  const before = useEarlierTake(told);
  const remedy = useRemedy();
  if (!told || told.pieceId !== pieceId) return null;
  const close = () => dispatch(takeTold(null));
  return (
    <TakeSheet
      proof={proof}
      take={told.take}
      percent={told.percent}
      isSimulated={told.isSimulated}
      before={before}
      onRemedy={(kind, barIndex) => {
        close();
        remedy(kind, barIndex);
      }}
      onClose={close}
    />
  );
}
