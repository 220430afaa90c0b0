import { COUNT_SCHOOLS } from '@anchorbeat/core';
import { useState } from 'react';

const KEY = 'anchorbeat.countSchool';
const USUAL = 'beat-parts';

/** The school the bar is counted in at the podium, kept in this browser, and what goes on to the next one. */
export function useCountSchool(): readonly [string, () => void] {
  const [id, setId] = useState(() => localStorage.getItem(KEY) ?? USUAL);
  const next = () => {
    const index = COUNT_SCHOOLS.findIndex((school) => school.id === id);
    const following = COUNT_SCHOOLS[(index + 1) % COUNT_SCHOOLS.length]?.id ?? USUAL;
    localStorage.setItem(KEY, following);
    setId(following);
  };
  return [id, next];
}
