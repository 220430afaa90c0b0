import { pieceSeconds, readPiece, type Piece } from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import { useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useCompiled, type Proof } from '../compiled/useCompiled.ts';
import { ImportDialog } from '../files/ImportDialog.tsx';
import { useFileDrop } from '../files/useFileDrop.ts';
import { Miniature } from '../line/Miniature.tsx';
import { useWidth } from '../line/useWidth.ts';
import { problemText, useListEnsemblesQuery, useListPiecesQuery } from '../store/api.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { Button } from '../ui/Button.tsx';
import { durationText } from '../ui/durationText.ts';
import { KeyHint } from '../ui/KeyHint.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { EnsembleDialog } from './EnsembleDialog.tsx';
import { NewPiece } from './NewPiece.tsx';

/** The ensemble's pieces, each with its line in miniature. */
export function Shelf() {
  usePlaceTheme('desk');
  const ensembles = useListEnsemblesQuery();
  const pieces = useListPiecesQuery(undefined, { refetchOnMountOrArgChange: true });
  const [isMaking, setMaking] = useState(false);
  const [isNaming, setNaming] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const isOver = useFileDrop(setFile);
  const ensemble = ensembles.data?.[0];
  useShelfKeys(pieces.data ?? [], {
    n: () => setMaking(true),
    e: () => setNaming(true),
    o: () => picker.current?.click(),
  });
  const error = ensembles.error ?? pieces.error;
  return (
    <main className="h-full overflow-y-auto px-8 py-7">
      <header className="flex items-baseline gap-4">
        <h1 className="text-4xl font-bold">{ensemble?.name ?? 'Shelf'}</h1>
        <span className="ml-auto">
          <KeyHint keyName="e" label="ensemble" onPress={() => setNaming(true)} disabled={!ensemble} />
        </span>
        <Button disabled={!ensemble} onClick={() => picker.current?.click()}>
          Open a file <kbd className="ml-1 font-text text-sm font-normal text-quiet">o</kbd>
        </Button>
        <input
          ref={picker}
          type="file"
          aria-label="A file to open"
          className="hidden"
          onChange={({ target }) => {
            setFile(target.files?.[0] ?? null);
            target.value = '';
          }}
        />
        <Button disabled={!ensemble} onClick={() => setMaking(true)}>
          New piece <kbd className="ml-1 font-text text-sm font-normal text-quiet">n</kbd>
        </Button>
      </header>
      <p className="mt-1 text-quiet">
        {[ensemble?.place, ensemble?.sections.join(', ')].filter(Boolean).join(' · ')}
      </p>
      {error && <p className="mt-8 text-problem">{problemText(error)}</p>}
      {pieces.data?.length === 0 && (
        <p className="mt-8 text-quiet">No pieces yet. Press n to make the first one.</p>
      )}
      <ul className="mt-5">
        {pieces.data?.map((response, index) => (
          <ShelfRow key={response.id} response={response} keyName={index < 9 ? String(index + 1) : ''} />
        ))}
      </ul>
      {ensemble && <NewPiece ensemble={ensemble} isOpen={isMaking} onClose={() => setMaking(false)} />}
      {ensemble && file && (
        <ImportDialog
          key={`${file.name} ${file.lastModified} ${file.size}`}
          file={file}
          ensemble={ensemble}
          onClose={() => setFile(null)}
        />
      )}
      {isOver && (
        <p className="pointer-events-none fixed inset-4 left-20 flex items-center justify-center rounded-2xl border-4 border-dashed border-ink bg-ground/85 text-3xl font-bold">
          Let go to see what is in it
        </p>
      )}
      {ensemble && isNaming && <EnsembleDialog ensemble={ensemble} onClose={() => setNaming(false)} />}
    </main>
  );
}

function useShelfKeys(pieces: readonly PieceResponse[], acts: Readonly<Record<string, () => void>>): void {
  const navigate = useNavigate();
  useKeys(({ key, command }) => {
    if (command) return false;
    const act = acts[key];
    if (act) {
      act();
      return true;
    }
    const piece = /^[1-9]$/.test(key) ? pieces[Number(key) - 1] : undefined;
    if (!piece) return false;
    void navigate(`/piece/${piece.id}/map`);
    return true;
  });
}

function ShelfRow({ response, keyName }: { readonly response: PieceResponse; readonly keyName: string }) {
  const piece = useMemo(() => readMaybe(response), [response]);
  const proof = useCompiled(piece);
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  return (
    <li className="border-b border-faint">
      <Link to={`/piece/${response.id}/map`} className="group block rounded-lg px-2 py-3 hover:bg-raised">
        <div className="flex items-baseline gap-3">
          {keyName && <kbd className="numeral w-5 text-quiet">{keyName}</kbd>}
          <h2 className="text-2xl font-bold">{response.piece.title}</h2>
          <span className="text-quiet">{response.piece.subtitle}</span>
          <span className="ml-auto text-quiet">{proof && summary(proof)}</span>
        </div>
        <div ref={holder} className="ml-8 mt-1 h-[46px]">
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
