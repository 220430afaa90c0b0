import type { WordIndex } from '@anchorbeat/audio';
import { useEffect, useState } from 'react';

/** Which words are recorded; null until that is known, or where it cannot be. */
export function useWordIndex(): WordIndex | null {
  const [index, setIndex] = useState<WordIndex | null>(null);
  useEffect(() => {
    let isWanted = true;
    fetch('/words/words.json')
      .then(async (answer) => {
        const known = answer.ok ? ((await answer.json()) as WordIndex) : null;
        if (isWanted) setIndex(known);
      })
      .catch(() => undefined);
    return () => {
      isWanted = false;
    };
  }, []);
  return index;
}
