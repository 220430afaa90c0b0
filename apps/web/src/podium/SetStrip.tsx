import { performedCount } from '@anchorbeat/core';
import { useEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import type { Act } from '../acts/act.ts';
import { ActHint } from '../acts/ActButton.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { useNow } from '../rehearse/useNow.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useAppSelector } from '../store/store.ts';
import { beginning, type PlayedSet } from './useSet.ts';

interface SetStripProps {
  readonly set: PlayedSet;
  readonly next: Act;
}

/** While a programme is played: which of how many, what comes next, and how long the pause lasts until it does. */
export function SetStrip({ set, next }: SetStripProps) {
  useBegin();
  const endedAtMs = useEndedAt();
  return (
    <aside
      aria-label="Programme"
      className="flex flex-wrap items-center gap-x-4 border-b-2 border-faint bg-raised px-4 py-1 text-ink print:hidden"
    >
      <b className="numeral">
        {set.at + 1} of {set.pieceIds.length}
      </b>
      <span className="min-w-0 truncate text-quiet">{set.title}</span>
      <span className="ml-auto flex min-w-0 flex-wrap items-center gap-x-3">
        {set.next ? (
          <>
            <span className="min-w-0 truncate">then {set.next.title}</span>
            {endedAtMs !== null && set.pauseSeconds !== null && (
              <Pause set={set} endsAtMs={endedAtMs + set.pauseSeconds * 1000} />
            )}
            <ActHint act={{ ...next, label: 'next piece' }} />
          </>
        ) : (
          <span>the last piece</span>
        )}
      </span>
    </aside>
  );
}

/** The seconds until the next piece begins; then it does. */
function Pause({ set, endsAtMs }: { readonly set: PlayedSet; readonly endsAtMs: number }) {
  const navigate = useNavigate();
  const left = Math.max(0, Math.ceil((endsAtMs - useNow()) / 1000));
  const address = set.next ? beginning(set.next.address) : null;
  const isOver = left === 0;
  useEffect(() => {
    if (isOver && address !== null) void navigate(address);
  }, [isOver, address, navigate]);
  return (
    <b role="timer" className="numeral text-seam">
      {Math.floor(left / 60)}:{String(left % 60).padStart(2, '0')}
    </b>
  );
}

/** When the piece came to its end by itself, on the page's clock; null while it sounds, and where it was stopped before. */
function useEndedAt(): number | null {
  const { compiled } = useProof();
  const { status, performed, run } = useAppSelector((state) => state.transport);
  const nowMs = useNow();
  const last = performedCount(compiled.timeline) - 1;
  const isRunning = status !== 'stopped';
  const isLast = isRunning && run?.subject.kind === 'piece' && performed === last;
  const [seen, setSeen] = useState<Seen>({ isRunning: false, isLast: false, endedAtMs: null });
  // What was seen before is looked at while drawing: a run is over in the same stroke in which it no longer sounds.
  if (seen.isRunning !== isRunning || seen.isLast !== isLast)
    setSeen({ isRunning, isLast, endedAtMs: !isRunning && seen.isLast ? nowMs : null });
  return seen.endedAtMs;
}

interface Seen {
  readonly isRunning: boolean;
  /** In the last bar of the piece. */
  readonly isLast: boolean;
  readonly endedAtMs: number | null;
}

/** A piece that is come to by the end of a pause is counted off at once, from its first bar. */
function useBegin(): void {
  const proof = useProof();
  const playback = usePlayback();
  const [search, setSearch] = useSearchParams();
  // The tempo that its date has for it is taken first.
  const isWanted = search.get('begin') !== null && search.get('percent') === null;
  useEffect(() => {
    if (!isWanted) return;
    setSearch(
      (now) => {
        now.delete('begin');
        return now;
      },
      { replace: true },
    );
    playback
      .countIn(proof, 0, { subject: { kind: 'piece' } })
      .catch((error: unknown) => toast((error as Error).message));
  }, [isWanted, proof, playback, setSearch]);
}
