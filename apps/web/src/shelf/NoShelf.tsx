import { useState } from 'react';
import { peopleAct } from '../account/peopleAct.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { NoEnsemble } from '../ensemble/NoEnsemble.tsx';
import { lazyPart } from '../ui/lazyNamed.tsx';

const PeopleDialog = lazyPart('PeopleDialog', () => import('../account/PeopleDialog.tsx'));

/** What is seen of the shelf by who leads no ensemble: why there is none, and the way out. */
export function NoShelf() {
  const [isOpen, setOpen] = useState(false);
  const people = { ...peopleAct(() => setOpen(true)), label: 'where you are signed in' };
  useActs('screen', [people]);
  return (
    <main tabIndex={-1} className="h-full overflow-y-auto px-4 py-4 outline-none sm:px-8 sm:py-7">
      <h1 className="text-3xl font-bold">Shelf</h1>
      <NoEnsemble />
      <p className="mt-6">
        <ActButton act={people} />
      </p>
      {isOpen && <PeopleDialog ensemble={null} onClose={() => setOpen(false)} />}
    </main>
  );
}
