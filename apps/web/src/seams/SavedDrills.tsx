import type { DrillResponse } from '@anchorbeat/contract';
import { useProof } from '../piece/PieceLayout.tsx';
import { placeOf } from './placedRun.ts';
import { placeName } from './target.ts';

interface SavedDrillsProps {
  readonly drills: readonly DrillResponse[];
  readonly onOpen: (drill: DrillResponse) => void;
  readonly onRemove: (drill: DrillResponse) => void;
}

/** Drills that were kept with the piece, each opened as it was. */
export function SavedDrills({ drills, onOpen, onRemove }: SavedDrillsProps) {
  const { compiled } = useProof();
  if (drills.length === 0) return null;
  return (
    <section
      aria-label="Kept drills"
      className="max-h-44 shrink-0 overflow-y-auto border-t-2 border-faint px-3 py-3"
    >
      <h2 className="px-3 font-display font-bold">Kept drills</h2>
      <ul>
        {drills.map((drill) => (
          <li key={drill.id} className="group flex items-center">
            <button
              type="button"
              className="min-w-0 flex-1 rounded-lg px-3 py-1 text-left hover:bg-raised"
              onClick={() => onOpen(drill)}
            >
              <span className="block truncate font-semibold">{drill.name}</span>
              <span className="block truncate text-[0.85rem] text-quiet">
                {placeName(compiled, placeOf(drill))}
                {drill.ladderStages.length > 0
                  ? `, ladder from ${drill.startPercent} %`
                  : `, ${Math.round(drill.percent)} %`}
              </span>
            </button>
            <button
              type="button"
              aria-label={`Take away ${drill.name}`}
              className="rounded px-2 text-quiet hover:text-ink"
              onClick={() => onRemove(drill)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
