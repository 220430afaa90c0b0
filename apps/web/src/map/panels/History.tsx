import { readPiece, type Piece } from '@anchorbeat/core';
import type { RevisionResponse } from '@anchorbeat/contract';
import { useEffect, useMemo, useState } from 'react';
import { problemText, useGetRevisionQuery, useListRevisionsInfiniteQuery } from '../../store/api.ts';
import { useAppSelector } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { momentText } from '../../ui/dayText.ts';
import { useEdit } from '../useEdit.ts';
import { usePresent } from '../usePresent.ts';
import { Changes } from './Changes.tsx';
import type { Preview } from './panels.ts';

const SHOWN_AT_ONCE = 30;

/** Every saved state with what was done; one can be compared with now, looked at on the line, and brought back. */
export function History({ onPreview }: { readonly onPreview: Preview }) {
  const id = useAppSelector((state) => state.piece.open?.id ?? '');
  const revision = useAppSelector((state) => state.piece.open?.revision);
  const list = useListRevisionsInfiniteQuery(id, { refetchOnMountOrArgChange: true });
  const [chosen, setChosen] = useState<number | null>(null);
  const [shown, setShown] = useState(SHOWN_AT_ONCE);
  if (list.error) return <p className="text-problem">{problemText(list.error)}</p>;
  const revisions = list.data?.pages.flat() ?? [];
  const showMore = () => {
    if (shown + SHOWN_AT_ONCE > revisions.length && list.hasNextPage) void list.fetchNextPage();
    setShown(shown + SHOWN_AT_ONCE);
  };
  return (
    <>
      <ol className="grid gap-1" aria-label="Revisions, newest first">
        {revisions.slice(0, shown).map((entry) => (
          <li key={entry.revision}>
            <RevisionRow
              entry={entry}
              isNow={entry.revision === revision}
              isOpen={entry.revision === chosen}
              onToggle={() => setChosen(entry.revision === chosen ? null : entry.revision)}
            />
            {entry.revision === chosen && (
              <Chosen
                key={chosen}
                id={id}
                revision={chosen}
                onPreview={onPreview}
                onRestored={() => setChosen(null)}
              />
            )}
          </li>
        ))}
      </ol>
      {(revisions.length > shown || list.hasNextPage) && (
        <Button className="mt-3" disabled={list.isFetchingNextPage} onClick={showMore}>
          Earlier ones
        </Button>
      )}
    </>
  );
}

interface RowProps {
  readonly entry: RevisionResponse;
  readonly isNow: boolean;
  readonly isOpen: boolean;
  readonly onToggle: () => void;
}

function RevisionRow({ entry, isNow, isOpen, onToggle }: RowProps) {
  return (
    <button
      type="button"
      aria-expanded={isOpen}
      onClick={onToggle}
      className={`w-full rounded-lg border-l-4 px-3 py-1.5 text-left hover:bg-selection ${isOpen ? 'border-ink bg-ground' : 'border-transparent'}`}
    >
      <span className="flex items-baseline gap-2">
        <span className="numeral font-bold">{entry.revision}</span>
        <span className="text-[0.85rem] text-quiet">{momentText(new Date(entry.savedAt))}</span>
        {isNow && <span className="ml-auto text-[0.85rem] font-semibold">now</span>}
      </span>
      <ul>
        {entry.edits.slice(0, 4).map((says, index) => (
          <li key={index} className="inline-block w-full first-letter:uppercase">
            {says}
          </li>
        ))}
      </ul>
      {entry.edits.length > 4 && <span className="text-quiet">and {entry.edits.length - 4} more</span>}
    </button>
  );
}

interface ChosenProps {
  readonly id: string;
  readonly revision: number;
  readonly onPreview: Preview;
  readonly onRestored: () => void;
}

/** One revision held against the piece as it is now. */
function Chosen({ id, revision, onPreview, onRestored }: ChosenProps) {
  const present = usePresent();
  const edit = useEdit();
  const [isLookedAt, setLookedAt] = useState(false);
  const query = useGetRevisionQuery({ id, revision });
  const then = useMemo(() => pieceOf(query.data?.piece), [query.data]);
  const shownPiece = isLookedAt ? then : null;
  useEffect(() => onPreview(shownPiece), [shownPiece, onPreview]);
  useEffect(() => () => onPreview(null), [onPreview]);
  if (query.error) return <p className="px-3 text-problem">{problemText(query.error)}</p>;
  if (!then) return <p className="px-3 text-quiet">Opening it …</p>;
  const restore = () => {
    if (edit({ kind: 'replacePiece', piece: then, how: `Revision ${revision} restored` })) onRestored();
  };
  return (
    <section
      aria-label={`Revision ${revision} and now`}
      className="grid gap-2 border-l-4 border-ink px-3 py-2"
    >
      <h3 className="font-bold">From then to now</h3>
      <Changes from={then} to={present} none="Nothing has changed since." />
      <div className="flex gap-3">
        <Button aria-pressed={isLookedAt} onClick={() => setLookedAt(!isLookedAt)}>
          {isLookedAt ? 'Back to now' : 'Show it on the line'}
        </Button>
        <Button onClick={restore}>Restore it</Button>
      </div>
    </section>
  );
}

function pieceOf(document: unknown): Piece | null {
  const reading = document === undefined ? null : readPiece(document);
  return reading?.ok ? reading.piece : null;
}
