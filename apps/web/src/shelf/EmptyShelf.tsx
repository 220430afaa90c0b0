import type { Act } from '../acts/act.ts';
import { pressed, useShownKey } from '../acts/ActButton.tsx';

/** What comes of each beginning, in a line. */
const OFFERS = [
  {
    name: 'demo',
    says: 'Five pieces of a band that was made up, put on this shelf: seams, odd bars and holds to look around in.',
  },
  {
    name: 'open',
    says: 'MusicXML, MIDI, a table or plain words, chosen or dropped here: its bars and tempi, with what had to be guessed told first.',
  },
  {
    name: 'words',
    says: 'A line for some bars, such as “8 bars of 7/8 as 2+2+3”: the map is drawn while you type.',
  },
  {
    name: 'make',
    says: 'What the first page says, and how it is best beaten: a map of so many bars, to be changed where the print changes.',
  },
] as const;

interface EmptyShelfProps {
  readonly acts: Readonly<Record<(typeof OFFERS)[number]['name'], Act>>;
}

/** What one can begin with where there is nothing yet. */
export function EmptyShelf({ acts }: EmptyShelfProps) {
  return (
    <section aria-label="To begin with" className="mt-8 max-w-5xl">
      <h2 className="text-2xl font-bold">Nothing on the shelf yet. Begin with one of these:</h2>
      <ul className="mt-4 grid gap-3 sm:grid-cols-2">
        {OFFERS.map(({ name, says }) => (
          <OfferCard key={name} act={acts[name]} says={says} />
        ))}
      </ul>
    </section>
  );
}

function OfferCard({ act, says }: { readonly act: Act; readonly says: string }) {
  const key = useShownKey(act);
  return (
    <li className="grid">
      <button
        type="button"
        disabled={act.may === false}
        {...pressed(act)}
        className="rounded-xl border-2 border-faint bg-raised px-5 py-4 text-left hover:border-ink disabled:opacity-45"
      >
        <span className="flex items-baseline gap-3">
          <b className="font-display text-xl">{act.name}</b>
          {key && (
            <kbd aria-hidden className="ml-auto rounded border border-quiet px-1.5 text-xs">
              {key}
            </kbd>
          )}
        </span>
        <span className="mt-1 block text-quiet">{says}</span>
      </button>
    </li>
  );
}
