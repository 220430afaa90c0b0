import type { RunResponse } from '@anchorbeat/contract';
import { barName, type Proof, type TakeRecord } from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import { useGetRunQuery } from '../store/api.ts';
import { useAppSelector } from '../store/store.ts';
import { toast } from '../ui/toast.ts';
import { TakeSheet } from './TakeSheet.tsx';
import { takeOf } from './takeOf.ts';
import { useEarlierTake } from './useEarlierTake.ts';
import { useProofThen } from './useProofThen.ts';
import { useRemedy } from './useRemedy.ts';

interface KeptTakeProps {
  /** As the list has it: its seams where they are now. */
  readonly run: RunResponse;
  /** Whose at a stand; null for the one at the podium. */
  readonly section: string | null;
  readonly onClose: () => void;
}

/** A take of a run in the log, on the piece as it was played. */
export function KeptTake({ run, section, onClose }: KeptTakeProps) {
  const now = useProof();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const { data } = useGetRunQuery({ pieceId, id: run.id });
  const proof = useProofThen(run.revision ?? null);
  const listed = takeOf(run, section);
  const before = useEarlierTake(listed && { runId: run.id, pieceId, take: listed }, section);
  const remedy = useRemedy();
  const take = data && takeOf(data, section);
  if (!data || !take || !listed || !proof) return null;
  const barNow = barsNow(take, listed);
  return (
    <TakeSheet
      proof={proof}
      take={take}
      percent={data.percent}
      before={before}
      barNow={barNow}
      whereNow={(barIndex) => wordsNow(now, barName(proof.compiled.labels, barIndex), barNow(barIndex))}
      onRemedy={(kind, barIndex) => {
        const bar = barNow(barIndex);
        if (bar === null) {
          toast('This bar is not in the piece any more');
          return;
        }
        onClose();
        remedy(kind, bar);
      }}
      onClose={onClose}
    />
  );
}

/** Where the bars after a take's seams are now, as the list has it: null for one that was taken out. */
function barsNow(take: TakeRecord, listed: TakeRecord): (barIndex: number) => number | null {
  const now = new Map(listed.seams.map(({ atOnset, barIndex }) => [atOnset, barIndex]));
  const moved = new Map(take.seams.map(({ atOnset, barIndex }) => [barIndex, now.get(atOnset) ?? null]));
  return (barIndex) => moved.get(barIndex) ?? null;
}

/** What a bar of then is called now; empty where it is called as it was. */
function wordsNow({ compiled }: Proof, name: string, bar: number | null): string {
  if (bar === null) return 'taken out of the piece since';
  const nameNow = barName(compiled.labels, bar);
  return nameNow === name ? '' : `now ${nameNow}`;
}
