/** Calls back with the first touch of the page, by key or by hand; the returned function ends that. */
export function whenTouched(then: () => void): () => void {
  const waiting = new AbortController();
  const touched = () => {
    waiting.abort();
    then();
  };
  for (const touch of ['keydown', 'pointerdown'])
    window.addEventListener(touch, touched, { signal: waiting.signal });
  return () => waiting.abort();
}
