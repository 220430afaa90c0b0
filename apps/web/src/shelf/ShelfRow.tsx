import { howMany, pieceSeconds, readPiece, type Piece, type Proof } from '@anchorbeat/core';
import type { PieceResponse } from '@anchorbeat/contract';
import { useMemo, useRef } from 'react';
import { Link } from 'react-router';
import { useCompiled } from '../compiled/useCompiled.ts';
import { Miniature } from '../line/Miniature.tsx';
import { useWidth } from '../line/useWidth.ts';
import { durationText } from '../ui/durationText.ts';
import { useNear } from '../ui/useNear.ts';
import { Readiness } from './Readiness.tsx';

interface ShelfRowProps {
  readonly response: PieceResponse;
  readonly keyName: string;
}

/** A piece with its line in miniature, how ready it is and what it needs next: worked out when it comes near to what is seen. */
export function ShelfRow({ response, keyName }: ShelfRowProps) {
  const piece = useMemo(() => readMaybe(response), [response]);
  const row = useRef<HTMLLIElement>(null);
  const proof = useCompiled(useNear(row) ? piece : null);
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  return (
    <li ref={row} className="border-b border-faint">
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
  return [
    howMany(piece.bars.length, 'bar'),
    durationText(pieceSeconds(compiled.timeline)),
    howMany(compiled.seams.length, 'seam'),
  ].join(' · ');
}

function readMaybe(response: PieceResponse): Piece | null {
  const reading = readPiece(response.piece);
  return reading.ok ? reading.piece : null;
}
