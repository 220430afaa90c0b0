import { pieceSeconds, readPiece, type Piece } from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import { useMemo, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useNavigate } from 'react-router';
import type { Proof } from '@anchorbeat/core';
import type { Act } from '../acts/act.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useCompiled } from '../compiled/useCompiled.ts';
import { EnsembleDialog } from '../ensemble/EnsembleDialog.tsx';
import { EnsembleName } from '../ensemble/EnsembleName.tsx';
import { useEnsemble, usePiecesOf } from '../ensemble/useEnsemble.ts';
import { ImportDialog } from '../files/ImportDialog.tsx';
import { Miniature } from '../line/Miniature.tsx';
import { useWidth } from '../line/useWidth.ts';
import { problemText } from '../store/api.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { durationText } from '../ui/durationText.ts';
import { PeopleDialog } from '../account/PeopleDialog.tsx';
import { NewPiece } from './NewPiece.tsx';
import { NextDate } from './NextDate.tsx';
import { Readiness } from './Readiness.tsx';
import { TidyDialog } from './TidyDialog.tsx';
import { useCarriedPiece } from './useCarriedPiece.ts';

/** The ensemble's pieces, each with its line in miniature. */
export function Shelf() {
  usePlaceTheme('desk');
  const { ensemble, ensembles, choose, error: ensembleError } = useEnsemble();
  const { pieces, error: piecesError } = usePiecesOf(ensemble);
  const [isMaking, setMaking] = useState(false);
  const [isNaming, setNaming] = useState(false);
  const [isPeople, setPeople] = useState(false);
  const [isTidying, setTidying] = useState(false);
  const shown = (pieces ?? []).filter(({ isSetAside }) => !isSetAside);
  const [file, setFile] = useState<File | null>(null);
  const drop = useDropzone({
    onDrop: ([dropped]) => dropped && setFile(dropped),
    multiple: false,
    noClick: true,
    noKeyboard: true,
  });
  useCarriedPiece(setFile);
  const acts = useShelfActs(shown, {
    make: () => setMaking(true),
    name: () => setNaming(true),
    people: () => setPeople(true),
    tidy: () => setTidying(true),
    open: drop.open,
  });
  const error = ensembleError ?? piecesError;
  return (
    <main
      {...drop.getRootProps({ role: 'main', tabIndex: -1 })}
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
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <div className="min-w-0">
          <p className="mt-1 text-quiet">
            {[ensemble?.place, ensemble?.sections.join(', ')].filter(Boolean).join(' · ')}
          </p>
          {ensemble && <NextDate ensembleId={ensemble.id} />}
        </div>
        <span className="flex flex-wrap gap-3 sm:ml-auto">
          <ActButton act={acts.open} />
          <input {...drop.getInputProps({ 'aria-label': 'A file to open' })} />
          <ActButton act={acts.make} />
        </span>
      </div>
      {error !== undefined && <p className="mt-8 text-problem">{problemText(error)}</p>}
      {pieces && shown.length === 0 && (
        <p className="mt-8 text-quiet">No pieces yet. Press n to make the first one.</p>
      )}
      <ul className="mt-5">
        {shown.map((response, index) => (
          <ShelfRow key={response.id} response={response} keyName={index < 9 ? String(index + 1) : ''} />
        ))}
      </ul>
      {ensemble && isMaking && <NewPiece ensemble={ensemble} onClose={() => setMaking(false)} />}
      {ensemble && file && (
        <ImportDialog
          key={`${file.name} ${file.lastModified} ${file.size}`}
          file={file}
          ensemble={ensemble}
          onClose={() => setFile(null)}
        />
      )}
      {drop.isDragActive && <LetGo />}
      {isTidying && <TidyDialog pieces={pieces ?? []} onClose={() => setTidying(false)} />}
      {ensemble && isPeople && <PeopleDialog ensemble={ensemble} onClose={() => setPeople(false)} />}
      {ensemble && isNaming && (
        <EnsembleDialog ensemble={ensemble} onMade={choose} onClose={() => setNaming(false)} />
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
}

/** What can be done on the shelf, the first nine pieces by their place among it. */
function useShelfActs(
  pieces: readonly PieceResponse[],
  does: ShelfDoes,
): Readonly<Record<keyof ShelfDoes | 'backups', Act>> {
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
    people: {
      ...shelf,
      id: 'shelf.people',
      key: 'p',
      name: 'who leads, and where you are signed in',
      label: 'people',
      does: does.people,
    },
    tidy: {
      ...shelf,
      id: 'shelf.tidy',
      key: 't',
      name: 'order, copy and set aside',
      label: 'tidy',
      does: does.tidy,
    },
    name: {
      ...shelf,
      id: 'shelf.ensemble',
      key: 'e',
      name: 'name the ensemble and its sections',
      label: 'ensemble',
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

function ShelfRow({ response, keyName }: { readonly response: PieceResponse; readonly keyName: string }) {
  const piece = useMemo(() => readMaybe(response), [response]);
  const proof = useCompiled(piece);
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  return (
    <li className="border-b border-faint">
      <Link to={`/piece/${response.id}/map`} className="group block rounded-lg px-2 py-3 hover:bg-raised">
        <div className="flex flex-wrap items-baseline gap-x-3">
          {keyName && <kbd className="numeral w-5 text-quiet">{keyName}</kbd>}
          <h2 className="text-2xl font-bold">{response.piece.title}</h2>
          <span className="text-quiet">{response.piece.subtitle}</span>
          <span className="text-quiet sm:ml-auto">{proof && summary(proof)}</span>
          {proof && <Readiness pieceId={response.id} proof={proof} />}
        </div>
        <div ref={holder} className="mt-1 h-[46px] sm:ml-8">
          {proof && width > 0 && <Miniature proof={proof} width={width} />}
          {!piece && <span className="text-problem">This piece could not be read; open it to see why</span>}
        </div>
      </Link>
    </li>
  );
}

function summary({ piece, compiled }: Proof): string {
  const seams = compiled.seams.length;
  return [
    `${piece.bars.length} bars`,
    durationText(pieceSeconds(compiled.timeline)),
    seams === 1 ? '1 seam' : `${seams} seams`,
  ].join(' · ');
}

function readMaybe(response: PieceResponse): Piece | null {
  const reading = readPiece(response.piece);
  return reading.ok ? reading.piece : null;
}
