import { useState } from 'react';
import type { OwnKeys } from './acts.ts';

const KEY = 'anchorbeat.podiumKeys';

/** The director's own keys, kept in this browser. */
export function useOwnKeys(): readonly [OwnKeys, (own: OwnKeys) => void] {
  const [own, setOwn] = useState<OwnKeys>(stored);
  const keep = (next: OwnKeys) => {
    localStorage.setItem(KEY, JSON.stringify(next));
    setOwn(next);
  };
  return [own, keep];
}

function stored(): OwnKeys {
  try {
    return (JSON.parse(localStorage.getItem(KEY) ?? '{}') ?? {}) as OwnKeys;
  } catch {
    return {};
  }
}
