import { useKept } from '../kept/kept.ts';
import { keptHandout } from './handout.ts';

/** What was handed to this phone to do at home; nothing where nothing was. `section` shows only its own. */
export function AtHome({ section }: { readonly section?: string }) {
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
