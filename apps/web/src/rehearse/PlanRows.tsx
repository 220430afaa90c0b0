import type { PlanItem } from '@anchorbeat/core';
import { useRowDrag } from './useRowDrag.ts';

interface PlanRowsProps {
  readonly items: readonly PlanItem[];
  /** Index of the item that keys act on. */
  readonly at: number;
  /** Key of the item that is worked on. */
  readonly nowKey: string | null;
  readonly onSelect: (index: number) => void;
  /** A place was dragged to where another item stands. */
  readonly onMoved: (from: number, to: number) => void;
}

/** The order of work, item by item; places are moved by their handles. */
export function PlanRows({ items, at, nowKey, onSelect, onMoved }: PlanRowsProps) {
  const { held, handle } = useRowDrag(onMoved);
  return (
    <ol aria-label="Order of work" className="max-w-4xl">
      {items.map((item, index) => (
        <li key={item.key} className={`relative ${held && held.from === index ? 'opacity-50' : ''}`}>
          {held && held.to === index && held.to !== held.from && (
            <span
              aria-hidden
              className={`absolute inset-x-0 z-10 h-1 rounded bg-seam ${held.to > held.from ? '-bottom-0.5' : '-top-0.5'}`}
            />
          )}
          <PlanRow
            item={item}
            isSelected={index === at}
            isNow={nowKey === item.key}
            onSelect={() => onSelect(index)}
          />
          {item.kind === 'place' && (
            <span
              aria-hidden
              title="Drag to another place"
              className="absolute inset-y-0 right-0 grid w-11 cursor-grab touch-none place-items-center text-xl text-quiet hover:text-ink"
              {...handle(index)}
            >
              ≡
            </span>
          )}
        </li>
      ))}
    </ol>
  );
}

interface PlanRowProps {
  readonly item: PlanItem;
  readonly isSelected: boolean;
  readonly isNow: boolean;
  readonly onSelect: () => void;
}

const MARKS: Readonly<Record<PlanItem['kind'], string>> = {
  'warm-up': '○',
  place: '▾',
  rest: '—',
  whole: '→',
};

function PlanRow({ item, isSelected, isNow, onSelect }: PlanRowProps) {
  const { kind, title, minutes, startMinute, percent, why, isPinned } = item;
  // What is quiet elsewhere could not be read on the ground of what is selected.
  const quiet = isSelected ? 'text-ink' : 'text-quiet';
  return (
    <button
      type="button"
      aria-pressed={isSelected}
      onClick={(event) => {
        // Pressed by hand it gives the keyboard back, so that a space goes to it.
        event.currentTarget.blur();
        onSelect();
      }}
      className={`grid w-full grid-cols-[3.2rem_1.4rem_1fr_auto] items-baseline gap-x-3 border-b border-faint px-2 py-2 pr-12 text-left ${isSelected ? 'rounded-lg bg-selection' : ''}`}
    >
      <span className={`numeral ${quiet}`}>
        {Math.floor(startMinute / 60)}:{String(startMinute % 60).padStart(2, '0')}
      </span>
      <span aria-hidden className={kind === 'place' && !isSelected ? 'text-seam' : quiet}>
        {MARKS[kind]}
      </span>
      <span className="min-w-0">
        <span className={`block text-lg ${kind === 'rest' ? quiet : 'font-semibold'}`}>
          {title}
          {isPinned && <span className="ml-2 rounded border border-current px-1 text-sm">pinned</span>}
          {isNow && <span className="ml-2 rounded border border-current px-1 text-sm font-bold">now</span>}
        </span>
        <span className={`block text-[0.9rem] ${quiet}`}>
          {kind === 'place' && `from ${percent} % · `}
          {why.join(' · ')}
        </span>
      </span>
      <b className="numeral text-xl">{minutes}′</b>
    </button>
  );
}
