import { differencesBetween, type Piece } from '@anchorbeat/core';
import { useMemo } from 'react';
import { barSelected } from '../../store/mapSlice.ts';
import { useAppDispatch } from '../../store/store.ts';

const SHOWN = 40;

interface ChangesProps {
  readonly from: Piece;
  readonly to: Piece;
  readonly none: string;
}

/** What makes one piece of another, place by place; a press goes there. */
export function Changes({ from, to, none }: ChangesProps) {
  const dispatch = useAppDispatch();
  const differences = useMemo(() => differencesBetween(from, to), [from, to]);
  const more = differences.length - SHOWN;
  if (differences.length === 0) return <p className="text-quiet">{none}</p>;
  return (
    <>
      <ul className="grid gap-1">
        {differences.slice(0, SHOWN).map(({ says, barIndex }, index) => (
          <li key={index}>
            <button
              type="button"
              className="inline-block w-full rounded px-1 text-left first-letter:uppercase enabled:hover:bg-selection"
              disabled={barIndex === null}
              onClick={() => barIndex !== null && dispatch(barSelected({ bar: barIndex }))}
            >
              {says}
            </button>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="text-quiet">and {more} more</p>}
    </>
  );
}
