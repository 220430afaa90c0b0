import { useKept } from '../kept/kept.ts';
import { keptHandout } from './handout.ts';
import { keptHomePieces } from './homePieces.ts';

interface AtHomeProps {
  /** Shows only what is this section's. */
  readonly section?: string;
  /** To the pieces that were taken home; left out, they are only told. */
  readonly onPractise?: () => void;
}

/** What was handed to this phone to do at home, and the pieces it took there; nothing where nothing was. */
export function AtHome({ section, onPractise }: AtHomeProps) {
  return (
    <>
      <Handed {...(section !== undefined && { section })} />
      <Taken {...(section !== undefined && { section })} {...(onPractise && { onPractise })} />
    </>
  );
}

function Taken({ section, onPractise }: AtHomeProps) {
  const [home] = useKept(keptHomePieces);
  if (!home || home.pieces.length === 0 || (section !== undefined && home.section !== section)) return null;
  const titles = home.pieces.map(({ title }) => title).join(', ');
  if (!onPractise) return <p className="text-lg text-quiet">On this device for home: {titles}</p>;
  return (
    <button
      type="button"
      className="rounded-2xl border-2 border-ink px-6 py-4 text-left text-xl font-bold"
      onClick={onPractise}
    >
      Practise your hard places
      <span className="block text-base font-normal text-quiet">{titles}</span>
    </button>
  );
}

function Handed({ section }: { readonly section?: string }) {
  const [handout] = useKept(keptHandout);
  if (!handout || handout.lines.length === 0 || (section !== undefined && handout.section !== section))
    return null;
  return (
    <section aria-label="At home" className="min-h-0 overflow-y-auto text-lg">
      <h2 className="font-bold">
        At home{' '}
        <span className="font-normal text-quiet">{`${handout.ensembleName}, ${handout.section}`}</span>
      </h2>
      <ol className="mt-1">
        {handout.lines.map((line, index) => (
          <li key={index} className="border-t border-faint py-1">
            {line}
          </li>
        ))}
      </ol>
    </section>
  );
}
