import { pieceReadinessMaybe, type SeamReadiness } from '@anchorbeat/core';
import { barPlaces } from '@anchorbeat/drawing';
import { useRef } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { Miniature } from '../line/Miniature.tsx';
import { useIsTouch } from '../input/useIsTouch.ts';
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
    <div className="flex items-start gap-5 [@media(max-height:480px)]:hidden">
      <div ref={holder} className="relative h-[76px] min-w-0 flex-1">
        {width > 0 && (
          <>
            <Miniature proof={proof} width={width} />
            {records.map(({ barIndex, readiness }) => (
              <ReadinessColumn
                key={barIndex}
                label={proof.compiled.labels[barIndex] ?? ''}
                readiness={readiness}
                isShown={barIndex === shownBar}
                x={places[barIndex] ?? 0}
                onChoose={() => onChoose(barIndex)}
              />
            ))}
          </>
        )}
      </div>
      <p className="w-18 text-right leading-tight @3xl:w-24">
        <span
          className="numeral block text-2xl whitespace-nowrap @3xl:text-3xl font-extrabold text-carry-text"
          data-testid="readiness"
        >
          {ready === null ? '–' : `${Math.round(100 * ready)} %`}
        </span>
        <span className="text-sm text-quiet">ready</span>
      </p>
    </div>
  );
}

interface ReadinessColumnProps {
  readonly label: string;
  readonly readiness: number | null;
  readonly isShown: boolean;
  readonly x: number;
  readonly onChoose: () => void;
}

/** Too narrow for a finger: there the list is what is pressed, and the column is only looked at. */
function ReadinessColumn({ label, readiness, isShown, x, onChoose }: ReadinessColumnProps) {
  const isTouch = useIsTouch();
  const says = readiness === null ? 'not yet run' : `${Math.round(100 * readiness)} % ready`;
  const look = {
    title: `${label ? `bar ${label}` : 'the seam'}: ${says}`,
    className: `absolute flex w-2.5 flex-col justify-end border ${isShown ? 'border-2 border-ink' : 'border-quiet'} ${readiness === null ? 'border-dashed' : ''}`,
    style: { left: x - 5, top: 50, height: COLUMN_PX },
  };
  const fill = <span className="block w-full bg-carry" style={{ height: `${100 * (readiness ?? 0)}%` }} />;
  if (isTouch) return <span {...look}>{fill}</span>;
  return (
    <button type="button" tabIndex={-1} aria-label={`Bar ${label}, ${says}`} onClick={onChoose} {...look}>
      {fill}
    </button>
  );
}
