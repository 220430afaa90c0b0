import type { WordIndex } from '@anchorbeat/audio';
import { useEffect, useState } from 'react';

/** Known once for the page: what is asked again is answered at once, and nothing on the screen moves. */
let known: WordIndex | null = null;

/** Which words are recorded; null until that is known, or where it cannot be. */
export function useWordIndex(): WordIndex | null {
  const [index, setIndex] = useState(known);
  useEffect(() => {
    if (known) return undefined;
    let isWanted = true;
    fetch('/words/words.json')
      .then(async (answer) => {
        known = answer.ok ? ((await answer.json()) as WordIndex) : null;
        if (isWanted) setIndex(known);
      })
      .catch(() => undefined);
    return () => {
      isWanted = false;
    };
  }, []);
  return index;
}
