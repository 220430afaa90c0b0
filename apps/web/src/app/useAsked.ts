import { useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';

/** What is asked by the address, such as `?percent=60`: answered once and taken out of it, so that it can be changed afterwards. */
export function useAsked(name: string, answer: (asked: string) => void, mayAnswer = true): void {
  const [search, setSearch] = useSearchParams();
  const asked = search.get(name);
  const latest = useRef(answer);
  useEffect(() => {
    latest.current = answer;
  });
  useEffect(() => {
    if (asked === null || !mayAnswer) return;
    setSearch(
      (now) => {
        now.delete(name);
        return now;
      },
      { replace: true },
    );
    latest.current(asked);
  }, [asked, mayAnswer, name, setSearch]);
}
