import type { ArchivePreview, EnsembleResponse } from '@anchorbeat/contract';
import { archiveLines, changesAnything } from '@anchorbeat/contract';
import { useState } from 'react';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { api, useListEnsemblesQuery } from '../store/api.ts';
import { useDirects } from '../store/peopleApi.ts';
import { closed } from '../store/pieceSlice.ts';
import { useAppDispatch } from '../store/store.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { useFileChoice } from '../ui/useFileChoice.ts';
import { lookAtArchive, restoreArchive } from './sendArchive.ts';

interface Looked {
  readonly file: File;
  readonly preview: ArchivePreview;
}

const DAY = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'short' });

/** Ensembles as files of their own, to keep or to take to another server, and the way back. */
export function Archives() {
  const { data: ensembles = [] } = useListEnsemblesQuery();
  const [looked, setLooked] = useState<Looked | null>(null);
  const [isLooking, setIsLooking] = useState(false);
  const look = async (file: File) => {
    setIsLooking(true);
    const answer = await lookAtArchive(file);
    setIsLooking(false);
    if (answer.ok) setLooked({ file, preview: answer.preview });
    else toast(answer.says, { duration: 12_000 });
  };
  const choice = useFileChoice((file) => void look(file));
  const act: Act = {
    id: 'archives.open',
    key: 'o',
    name: 'Bring an archive back',
    group: 'Backups',
    may: !isLooking,
    does: choice.open,
  };
  useActs('view', [act]);
  return (
    <section aria-label="Archives" className="mt-10 max-w-4xl">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-3">
        <h2 className="text-2xl font-bold">An ensemble as one file</h2>
        <span className="ml-auto">
          <ActButton act={act} />
        </span>
      </header>
      <p className="mt-2 max-w-3xl text-quiet">
        Its pieces with all their saved states, drills, log, takes and plans: to keep on another disk, or to
        take to another server. Brought back, it adds what is missing; nothing that is there is changed.
      </p>
      <input
        {...choice.input}
        accept=".zip"
        aria-label="An archive to bring back"
        className="sr-only"
        tabIndex={-1}
      />
      <ul className="mt-3" aria-label="Ensembles">
        {ensembles.map((ensemble) => (
          <EnsembleRow key={ensemble.id} ensemble={ensemble} />
        ))}
      </ul>
      {isLooking && (
        <p role="status" className="mt-3 text-quiet">
          Looking through the archive …
        </p>
      )}
      {looked && <ArchiveDialog looked={looked} onClose={() => setLooked(null)} />}
    </section>
  );
}

function EnsembleRow({ ensemble: { id, name, sections } }: { readonly ensemble: EnsembleResponse }) {
  const directs = useDirects(id);
  return (
    <li className="flex flex-wrap items-center gap-4 border-b border-faint py-2.5">
      <span className="basis-full text-lg font-semibold sm:basis-80">{name}</span>
      <span className="flex-1 text-quiet">{sections.join(', ')}</span>
      {directs ? (
        <a
          href={`/api/ensembles/${id}/archive`}
          download
          className="whitespace-nowrap rounded-lg border-2 border-ink px-4 py-2 font-semibold text-ink hover:bg-selection"
        >
          Save its archive
        </a>
      ) : (
        <span className="text-quiet">its director saves it</span>
      )}
    </li>
  );
}

function ArchiveDialog({ looked, onClose }: { readonly looked: Looked; readonly onClose: () => void }) {
  const { file, preview } = looked;
  const [isBusy, setIsBusy] = useState(false);
  const dispatch = useAppDispatch();
  const bringBack = async () => {
    setIsBusy(true);
    const answer = await restoreArchive(file, preview);
    setIsBusy(false);
    toast(answer.ok ? `${preview.ensemble} was brought back` : answer.says);
    if (answer.ok) {
      dispatch(closed());
      dispatch(api.util.invalidateTags(['Session', 'Pieces', 'Ensembles', 'Drills', 'Dates', 'Backups']));
    }
    onClose();
  };
  const lines = archiveLines(preview);
  return (
    <DialogShell
      title={`Bring ${preview.ensemble} back?`}
      description={`An archive of ${DAY.format(new Date(preview.madeAt))}. This is what would change; a backup of everything is made first.`}
      width="middle"
      onClose={onClose}
    >
      <ul
        aria-label="What would change"
        className="mt-4 max-h-[50vh] list-disc overflow-y-auto pl-6 text-lg marker:text-quiet"
      >
        {lines.map((line) => (
          <li key={line} className="py-0.5">
            {line}
          </li>
        ))}
      </ul>
      <div className="mt-6 flex justify-end gap-3">
        <Button onClick={onClose}>Leave it</Button>
        <Button filled disabled={isBusy || !changesAnything(preview)} onClick={() => void bringBack()}>
          Bring it back
        </Button>
      </div>
    </DialogShell>
  );
}
