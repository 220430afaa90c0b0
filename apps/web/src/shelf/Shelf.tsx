import type { PieceResponse } from '@anchorbeat/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Act } from '../acts/act.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { EnsembleName } from '../ensemble/EnsembleName.tsx';
import { useEnsemble, usePiecesOf, type Chosen } from '../ensemble/useEnsemble.ts';
import { problemText } from '../store/api.ts';
import { useDirects } from '../store/peopleApi.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { useFileChoice } from '../ui/useFileChoice.ts';
import { lazyPart } from '../ui/lazyNamed.tsx';
import { peopleAct } from '../account/peopleAct.ts';
import { EmptyShelf } from './EmptyShelf.tsx';
import { NewPiece } from './NewPiece.tsx';
import { NextDate } from './NextDate.tsx';
import { NoShelf } from './NoShelf.tsx';
import { ShelfRow } from './ShelfRow.tsx';
import { useBeginnings } from './useBeginnings.ts';
import { useCarriedPiece } from './useCarriedPiece.ts';
import { useFileDrop } from './useFileDrop.ts';

/** What opens over the shelf is loaded when it is asked for; a new piece is there at once, since one types on. */
const ImportDialog = lazyPart('ImportDialog', () => import('../files/ImportDialog.tsx'));
const PeopleDialog = lazyPart('PeopleDialog', () => import('../account/PeopleDialog.tsx'));
const EnsembleDialog = lazyPart('EnsembleDialog', () => import('../ensemble/EnsembleDialog.tsx'));
const TidyDialog = lazyPart('TidyDialog', () => import('./TidyDialog.tsx'));

type Opened = 'new' | 'name' | 'people' | 'tidy' | null;

/** The shelf of an ensemble that one leads. */
export function Shelf() {
  usePlaceTheme('desk');
  const chosen = useEnsemble();
  return chosen.isNone ? <NoShelf /> : <ShelfOf {...chosen} />;
}

/** The ensemble's pieces, each with its line in miniature. */
function ShelfOf({ ensemble, ensembles, choose, error: ensembleError }: Chosen) {
  const { pieces, error: piecesError } = usePiecesOf(ensemble);
  const [openDialog, setOpenDialog] = useState<Opened>(null);
  const shown = (pieces ?? []).filter(({ isSetAside }) => !isSetAside);
  const [file, setFile] = useState<File | null>(null);
  const drop = useFileDrop(setFile);
  const choice = useFileChoice(setFile);
  useCarriedPiece(setFile);
  const directs = useDirects(ensemble?.id);
  const beginnings = useBeginnings(ensemble);
  const acts = useShelfActs(shown, {
    make: () => setOpenDialog('new'),
    name: () => setOpenDialog('name'),
    people: () => setOpenDialog('people'),
    tidy: () => setOpenDialog('tidy'),
    open: choice.open,
    ...beginnings,
    directs,
  });
  const error = ensembleError ?? piecesError;
  const close = () => setOpenDialog(null);
  return (
    <main
      {...drop.area}
      tabIndex={-1}
      className="h-full overflow-y-auto px-4 py-4 sm:py-7 outline-none sm:px-8"
    >
      <header className="flex flex-wrap items-baseline gap-x-3 gap-y-2 sm:gap-x-4">
        <EnsembleName ensemble={ensemble} ensembles={ensembles} onChoose={choose} />
        <span className="sm:ml-auto">
          <ActHint act={acts.name} />
        </span>
        <ActHint act={acts.people} />
        <ActHint act={acts.tidy} />
        <ActHint act={acts.backups} />
      </header>
      <div className="mt-2 flex flex-wrap items-start gap-x-6 gap-y-2">
        {/* First, and at the top: what is told beside them comes later, and moves nothing that is about to be pressed. */}
        <span className="flex w-full flex-wrap gap-3 sm:order-last sm:ml-auto sm:w-auto">
          <ActButton act={acts.open} />
          <input {...choice.input} hidden aria-label="A file to open" />
          <ActButton act={acts.make} />
        </span>
        <div className="min-w-0">
          <p className="mt-1 text-quiet">
            {[ensemble?.place, ensemble?.sections.join(', ')].filter(Boolean).join(' · ')}
          </p>
          {ensemble && <NextDate ensembleId={ensemble.id} />}
        </div>
      </div>
      {error !== undefined && <p className="mt-8 text-problem">{problemText(error)}</p>}
      {pieces && shown.length === 0 && <EmptyShelf acts={acts} />}
      <ul className="mt-5">
        {shown.map((response, index) => (
          <ShelfRow key={response.id} response={response} keyName={index < 9 ? String(index + 1) : ''} />
        ))}
      </ul>
      {drop.isOver && <LetGo />}
      {ensemble && openDialog === 'new' && <NewPiece ensemble={ensemble} onClose={close} />}
      {openDialog === 'tidy' && <TidyDialog pieces={pieces ?? []} onClose={close} />}
      {ensemble && openDialog === 'people' && <PeopleDialog ensemble={ensemble} onClose={close} />}
      {ensemble && openDialog === 'name' && (
        <EnsembleDialog ensemble={ensemble} onMade={choose} onClose={close} />
      )}
      {ensemble && file && (
        <ImportDialog
          key={`${file.name} ${file.lastModified} ${file.size}`}
          file={file}
          ensemble={ensemble}
          onClose={() => setFile(null)}
        />
      )}
    </main>
  );
}

/** A file is held over the shelf. */
function LetGo() {
  return (
    <p className="pointer-events-none fixed inset-4 flex sm:left-20 items-center justify-center rounded-2xl border-4 border-dashed border-ink bg-ground/85 text-3xl font-bold">
      Let go to see what is in it
    </p>
  );
}

interface ShelfDoes {
  readonly make: () => void;
  readonly name: () => void;
  readonly people: () => void;
  readonly tidy: () => void;
  readonly open: () => void;
  readonly demo: () => void;
  readonly words: () => void;
  readonly isBusy: boolean;
  /** Whoever is here directs the ensemble. */
  readonly directs: boolean;
}

/** What can be done on the shelf, the first nine pieces by their place among it. */
function useShelfActs(
  pieces: readonly PieceResponse[],
  does: ShelfDoes,
): Readonly<Record<Exclude<keyof ShelfDoes, 'isBusy' | 'directs'> | 'backups', Act>> {
  const navigate = useNavigate();
  const shelf = { group: 'Shelf' };
  const acts = {
    backups: {
      id: 'shelf.backups',
      key: 'b',
      name: 'backups',
      group: 'Shelf',
      does: () => void navigate('/backups'),
    },
    make: { ...shelf, id: 'shelf.make', key: 'n', name: 'New piece', does: does.make },
    open: { ...shelf, id: 'shelf.open', key: 'o', name: 'Open a file', does: does.open },
    people: peopleAct(does.people),
    tidy: {
      ...shelf,
      id: 'shelf.tidy',
      key: 't',
      name: 'order, copy and set aside',
      label: 'tidy',
      does: does.tidy,
    },
    words: {
      ...shelf,
      id: 'shelf.words',
      key: 'w',
      name: 'Write a piece in words',
      may: !does.isBusy,
      does: does.words,
    },
    demo: {
      ...shelf,
      id: 'shelf.demo',
      key: 'd',
      name: 'Try the demo',
      may: pieces.length === 0 && !does.isBusy,
      does: does.demo,
    },
    name: {
      ...shelf,
      id: 'shelf.ensemble',
      key: 'e',
      name: 'name the ensemble and its sections',
      label: 'ensemble',
      may: does.directs,
      does: does.name,
    },
  };
  const opens = pieces.slice(0, 9).map(({ id, piece }, index) => ({
    id: `shelf.${index + 1}`,
    key: String(index + 1),
    name: piece.title,
    group: 'Pieces',
    does: () => void navigate(`/piece/${id}/map`),
  }));
  useActs('screen', [...Object.values(acts), ...opens]);
  return acts;
}
