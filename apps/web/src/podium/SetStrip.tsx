import { useEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActHint } from '../acts/ActButton.tsx';
import { useAsked } from '../app/useAsked.ts';
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
  const isOver = useAppSelector(({ transport }) => transport.cameToEnd);
  const nowMs = useNow();
  // A run that came to its end before this was shown was another piece's.
  const [seen, setSeen] = useState<Seen>({ isOver, endedAtMs: null });
  if (seen.isOver !== isOver) setSeen({ isOver, endedAtMs: isOver ? nowMs : null });
  return seen.endedAtMs;
}

interface Seen {
  readonly isOver: boolean;
  readonly endedAtMs: number | null;
}

/** A piece that is come to by the end of a pause is counted off at once, from its first bar. */
function useBegin(): void {
  const proof = useProof();
  const playback = usePlayback();
  const [search] = useSearchParams();
  // The tempo that its date has for it is taken first.
  const mayBegin = search.get('percent') === null;
  useAsked(
    'begin',
    () => {
      playback
        .countIn(proof, 0, { subject: { kind: 'piece' } })
        .catch((error: unknown) => toast((error as Error).message));
    },
    mayBegin,
  );
}
