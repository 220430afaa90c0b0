import { useEffect, useState } from 'react';
import { lazyPart } from '../ui/lazyNamed.tsx';
import { showToastsBy, whenToasted } from '../ui/toast.ts';
import { whenTouched } from '../ui/whenTouched.ts';

const SHOWN_MS = 5000;

/** Where the server has gone before what shows them could be fetched. */
function PlainToaster() {
  const [words, setWords] = useState('');
  useEffect(() => showToastsBy(setWords), []);
  useEffect(() => {
    const end = setTimeout(() => setWords(''), SHOWN_MS);
    return () => clearTimeout(end);
  }, [words]);
  return (
    <p role="status" className="fixed inset-x-4 bottom-4 z-50 bg-ink px-4 text-center text-ground">
      {words}
    </p>
  );
}

const Toaster = lazyPart('Toaster', () => import('./Toaster.tsx').catch(() => ({ Toaster: PlainToaster })));

/** What is told for a moment. It is loaded with the first touch of the page, so that it can also tell that the server is away. */
export function Toasts() {
  const [isWanted, setWanted] = useState(false);
  useEffect(() => {
    const want = () => setWanted(true);
    const ends = [whenTouched(want), whenToasted(want)];
    return () => {
      for (const end of ends) end();
    };
  }, []);
  return isWanted ? <Toaster /> : null;
}
