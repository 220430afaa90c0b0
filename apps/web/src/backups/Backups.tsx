import type { BackupResponse } from '@anchorbeat/contract';
import { useState } from 'react';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import {
  isForbidden,
  problemText,
  useListBackupsQuery,
  useMakeBackupMutation,
  useRestoreBackupMutation,
} from '../store/api.ts';
import { closed } from '../store/pieceSlice.ts';
import { useAppDispatch } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { Archives } from './Archives.tsx';

const WHEN = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'short' });

const REASONS: Readonly<Record<BackupResponse['reason'], string>> = {
  daily: 'made by itself, once a day',
  'by-hand': 'made by hand',
  'before-migration': 'made before a new version of the program',
  'before-restore': 'what was there before going back',
};

/** Whole copies of everything on the server, and the way back to each. */
export function Backups() {
  usePlaceTheme('desk');
  const { data: backups, error } = useListBackupsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [make, { isLoading }] = useMakeBackupMutation();
  const [wanted, setWanted] = useState<BackupResponse | null>(null);
  const act: Act = {
    id: 'backups.make',
    key: 'n',
    name: 'Make a backup now',
    group: 'Backups',
    may: !isLoading && !isForbidden(error),
    does: () => void make().then((made) => toast(made.error ? problemText(made.error) : 'A backup was made')),
  };
  useActs('screen', [act]);
  return (
    <main className="h-full overflow-y-auto px-5 py-7 sm:px-8">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-3">
        <h1 className="text-4xl font-bold">Backups</h1>
        <span className="ml-auto">
          <ActButton act={act} filled />
        </span>
      </header>
      <p className="mt-2 max-w-3xl text-quiet">
        Each is a copy of everything: pieces with all their revisions, drills and the log. One is made every
        day; seven days, four weeks and twelve months are kept. They lie in the data folder, so copy it to
        another disk now and then.
      </p>
      {error && <p className="mt-6 text-problem">{problemText(error)}</p>}
      <ul className="mt-5 max-w-4xl" aria-label="Backups, newest first">
        {backups?.map((backup) => (
          <li key={backup.name} className="flex flex-wrap items-center gap-4 border-b border-faint py-2.5">
            <span className="numeral basis-full text-lg sm:basis-80 font-semibold">
              {WHEN.format(new Date(backup.madeAt))}
            </span>
            <span className="flex-1 text-quiet">{REASONS[backup.reason]}</span>
            <span className="numeral text-quiet">{sizeText(backup.bytes)}</span>
            <Button onClick={() => setWanted(backup)}>Go back to it</Button>
          </li>
        ))}
      </ul>
      {backups?.length === 0 && <p className="mt-4 text-quiet">There is none yet.</p>}
      <Archives />
      {wanted && <RestoreDialog backup={wanted} onClose={() => setWanted(null)} />}
    </main>
  );
}

function RestoreDialog({
  backup,
  onClose,
}: {
  readonly backup: BackupResponse;
  readonly onClose: () => void;
}) {
  const [restore, { isLoading }] = useRestoreBackupMutation();
  const dispatch = useAppDispatch();
  const goBack = async () => {
    const { error } = await restore(backup.name);
    toast(error ? problemText(error) : `Everything is as it was on ${WHEN.format(new Date(backup.madeAt))}`);
    if (!error) dispatch(closed());
    onClose();
  };
  return (
    <DialogShell
      title="Go back to this backup?"
      description={`Everything becomes as it was on ${WHEN.format(new Date(backup.madeAt))}. What is there now is kept as a backup of its own.`}
      onClose={onClose}
    >
      <div className="mt-6 flex justify-end gap-3">
        <Button onClick={onClose}>Leave it</Button>
        <Button filled disabled={isLoading} onClick={() => void goBack()}>
          Go back
        </Button>
      </div>
    </DialogShell>
  );
}

function sizeText(bytes: number): string {
  return bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
}
