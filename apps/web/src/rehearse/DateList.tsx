import type { DateResponse } from '@anchorbeat/contract';
import { whenText } from './season.ts';

interface DateListProps {
  readonly dates: readonly DateResponse[];
  readonly shownId: string | null;
  readonly onChoose: (id: string) => void;
}

/** Rehearsals and concerts in order; a concert stands out. */
export function DateList({ dates, shownId, onChoose }: DateListProps) {
  return (
    <nav
      aria-label="Dates"
      className="max-h-32 shrink-0 overflow-y-auto border-b-2 border-faint px-2 py-2 @3xl:max-h-none @3xl:w-64 @3xl:border-r-2 @3xl:border-b-0"
    >
      <ol>
        {dates.map((date) => (
          <li key={date.id}>
            <button
              type="button"
              aria-current={date.id === shownId ? 'date' : undefined}
              onClick={() => onChoose(date.id)}
              className={`w-full rounded-lg px-3 py-1.5 text-left ${date.id === shownId ? 'bg-selection font-semibold' : 'hover:bg-raised'}`}
            >
              <span
                className={`block ${date.kind === 'concert' ? 'font-bold' : ''} ${date.kind === 'concert' && date.id !== shownId ? 'text-entry-text' : ''}`}
              >
                {whenText(date)}
              </span>
              <span className={`block text-[0.9rem] ${date.id === shownId ? 'text-ink' : 'text-quiet'}`}>
                {date.title || (date.kind === 'concert' ? 'Concert' : 'Rehearsal')} · {date.minutes} min
                {date.done.length > 0 && ` · ${date.done.length} done`}
              </span>
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}
