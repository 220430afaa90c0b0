import type { CorrectionNote } from '@anchorbeat/core';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Act } from '../../acts/act.ts';
import { ActHint } from '../../acts/ActButton.tsx';
import { useActs } from '../../acts/ActsContext.tsx';
import { undone } from '../../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { useEdit } from '../useEdit.ts';
import { usePresent } from '../usePresent.ts';
import { CorrectionForm } from './answerForms.tsx';
import { isSuperseded } from './superseded.ts';

/** What was put right in this piece; the last change can be logged too, and the whole printed. */
export function Corrections() {
  const { corrections = [] } = usePresent();
  const open = useAppSelector((state) => state.piece.open);
  const [isLogging, setLogging] = useState(false);
  const logLast = useLogLastChange();
  const last = open?.past.at(-1);
  const log: Act = {
    id: 'checks.log',
    key: 'j',
    name: 'log the last change as a correction',
    group: 'Checks',
    may: last !== undefined,
    does: () => setLogging(true),
  };
  useActs('panel', [log]);
  return (
    <section aria-label="Corrections" className="mt-6 border-t-2 border-faint pt-4">
      <div className="flex items-baseline gap-3">
        <h3 className="text-lg font-bold">Corrections</h3>
        {corrections.length > 0 && open && (
          <Link
            to={`/piece/${open.id}/errata`}
            className="ml-auto font-semibold underline pointer-coarse:py-2.5"
          >
            Errata list to print
          </Link>
        )}
      </div>
      {corrections.length === 0 && <p className="mt-1 text-quiet">None logged yet.</p>}
      <ol className="mt-2 grid gap-2">
        {corrections.map(({ place, was, is, why, spottedBy, on }, index) => (
          <li key={index}>
            <span className="inline-block font-semibold first-letter:uppercase">{place}</span>:{' '}
            {is || 'nothing'}, was {was || 'nothing'}
            <span className="block text-[0.9rem] text-quiet">
              {[
                isSuperseded(corrections, index) && 'superseded by a later one',
                why,
                spottedBy && `spotted by ${spottedBy}`,
                on,
              ]
                .filter(Boolean)
                .join(' · ')}
            </span>
          </li>
        ))}
      </ol>
      {last && !isLogging && (
        <div className="mt-2">
          <ActHint act={log} />
        </div>
      )}
      {last && isLogging && (
        <div className="mt-3">
          <p className="mb-1 text-[0.9rem] text-quiet">{last.says}</p>
          <CorrectionForm
            label="Log it"
            onLeave={() => setLogging(false)}
            onDone={(note) => {
              setLogging(false);
              logLast(note);
            }}
          />
        </div>
      )}
    </section>
  );
}

/** Takes the last change back and makes it again as a correction, so that the log has what was there before. */
function useLogLastChange(): (log: CorrectionNote) => void {
  const present = usePresent();
  const dispatch = useAppDispatch();
  const edit = useEdit();
  return (log) => {
    dispatch(undone());
    edit({ kind: 'correct', edit: { kind: 'replacePiece', piece: present, how: 'As changed' }, log });
  };
}
