import { pieceReadinessMaybe, type SeamReadiness } from '@anchorbeat/core';
import { barPlaces } from '@anchorbeat/drawing';
import { useRef } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { Miniature } from '../line/Miniature.tsx';
import { useWidth } from '../line/useWidth.ts';

const COLUMN_PX = 24;

interface ReadinessStripProps {
  readonly records: readonly SeamReadiness[];
  readonly shownBar: number | null;
  readonly onChoose: (barIndex: number) => void;
}

/** The whole piece on one small line, and under every seam a column that fills as it becomes ready; empty is not yet run. */
export function ReadinessStrip({ records, shownBar, onChoose }: ReadinessStripProps) {
  const proof = useProof();
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  const places = barPlaces(proof, width);
  const ready = pieceReadinessMaybe(records);
  return (
    <div className="flex items-start gap-5">
      <div ref={holder} className="relative h-[76px] min-w-0 flex-1">
        {width > 0 && (
          <>
            <Miniature proof={proof} width={width} />
            {records.map(({ barIndex, readiness }) => (
              <button
                key={barIndex}
                type="button"
                tabIndex={-1}
                title={`${proof.compiled.labels[barIndex] ? `bar ${proof.compiled.labels[barIndex]}` : 'the seam'}: ${readiness === null ? 'not yet run' : `${Math.round(100 * readiness)} % ready`}`}
                aria-label={`Bar ${proof.compiled.labels[barIndex] ?? ''}, ${readiness === null ? 'not yet run' : `${Math.round(100 * readiness)} % ready`}`}
                onClick={() => onChoose(barIndex)}
                className={`absolute flex w-2.5 flex-col justify-end border ${barIndex === shownBar ? 'border-2 border-ink' : 'border-quiet'} ${readiness === null ? 'border-dashed' : ''}`}
                style={{ left: (places[barIndex] ?? 0) - 5, top: 50, height: COLUMN_PX }}
              >
                <span className="block w-full bg-carry" style={{ height: `${100 * (readiness ?? 0)}%` }} />
              </button>
            ))}
          </>
        )}
      </div>
      <p className="w-24 text-right leading-tight">
        <span className="numeral block text-3xl font-extrabold text-carry-text" data-testid="readiness">
          {ready === null ? '–' : `${Math.round(100 * ready)} %`}
        </span>
        <span className="text-sm text-quiet">ready</span>
      </p>
    </div>
  );
}
