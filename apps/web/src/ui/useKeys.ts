import { useEffect, useRef } from 'react';

export interface KeyPress {
  readonly key: string;
  readonly shift: boolean;
  readonly command: boolean;
}

/** Returns true when the key was for it, which keeps the browser from acting on it too. */
export type KeyHandler = (press: KeyPress) => boolean;

/** Keys of a whole screen. Not heard while something is being typed or a dialog is open. */
export function useKeys(handler: KeyHandler): void {
  const latest = useRef(handler);
  useEffect(() => {
    latest.current = handler;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.altKey || isForSomethingElse(event)) return;
      const press = { key: event.key, shift: event.shiftKey, command: event.ctrlKey || event.metaKey };
      if (latest.current(press)) event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}

function isForSomethingElse(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  if (document.querySelector('[role="dialog"]')) return true;
  if (target?.closest('input, textarea, select, [contenteditable="true"], [role="slider"]')) return true;
  return (event.key === 'Enter' || event.key === ' ') && Boolean(target?.closest('button, a'));
}
