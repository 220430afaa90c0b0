import { useSyncExternalStore } from 'react';

/** Where small settings of this browser are kept; a page that may not store keeps them until it is left. */
export interface TextStore {
  readonly get: (key: string) => string | null;
  readonly set: (key: string, text: string) => void;
}

/** The browser's own storage, which may be full, closed or forbidden: then nothing is kept, and nothing breaks. */
export const browserTexts: TextStore = {
  get: (key) => {
    try {
      return localStorage.getItem(key);
    } catch {
      return null;
    }
  },
  set: (key, text) => {
    try {
      localStorage.setItem(key, text);
    } catch {
      // It holds in this window; there is no room to keep it longer.
    }
  },
};

/** A setting of this browser: what it is, kept over reloads, and told to whoever shows it. */
export class Kept<T> {
  private readonly listeners = new Set<() => void>();
  private value: T | undefined;

  /** `read` gives the setting from what was stored, and its usual value for whatever does not read. */
  constructor(
    private readonly key: string,
    private readonly read: (stored: unknown) => T,
    private readonly texts: TextStore = browserTexts,
  ) {}

  readonly get = (): T => (this.value ??= this.read(this.stored()));

  readonly set = (value: T): void => {
    this.value = value;
    this.texts.set(this.key, JSON.stringify(value));
    for (const tell of this.listeners) tell();
  };

  readonly subscribe = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  private stored(): unknown {
    const text = this.texts.get(this.key);
    if (text === null) return undefined;
    try {
      return JSON.parse(text) as unknown;
    } catch {
      // Stored before it was JSON: a plain word.
      return text;
    }
  }
}

/** A kept setting and the way to change it. */
export function useKept<T>(kept: Kept<T>): readonly [T, (value: T) => void] {
  return [useSyncExternalStore(kept.subscribe, kept.get), kept.set];
}

/** The stored word where it is one of some, else the first of them. */
export function oneOf<T extends string>(words: readonly [T, ...T[]]): (stored: unknown) => T {
  return (stored) => words.find((word) => word === stored) ?? words[0];
}
