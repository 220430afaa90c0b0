import type { MouseEvent, ReactNode } from 'react';
import { useKept } from '../kept/kept.ts';
import { Button } from '../ui/Button.tsx';
import { timedTouch } from '../ui/timedTouch.ts';
import { accessibleName, shownKey, shownWords, type Act } from './act.ts';
import { keptKeys, keyOf } from './ownKeys.ts';

/** The key an act has now, as it is shown; empty where it has none. */
export function useShownKey(act: Act): string {
  const [{ own, singleKeys }] = useKept(keptKeys);
  const key = keyOf(act, own);
  return singleKeys || key.length > 1 || key === ' ' ? shownKey(key) : '';
}

/** What the button of an act listens to. Pressed by hand it gives the keyboard back to the screen. */
export function pressed({ does, isTimed }: Act) {
  const touch = isTimed ? timedTouch((atMs) => does(undefined, atMs)) : { onClick: () => does() };
  return {
    ...touch,
    onClick: (event: MouseEvent<HTMLElement>) => {
      event.currentTarget.blur();
      touch.onClick(event);
    },
  };
}

interface ActHintProps {
  readonly act: Act;
  readonly tone?: 'quiet' | 'problem';
  /** Shown as on, where the act is a switch or opens what is open. */
  readonly isOn?: boolean;
  /** Its key is told in the list of all acts only. */
  readonly hidesKey?: boolean;
}

const TONES = {
  quiet: 'text-quiet',
  problem: 'font-semibold text-problem',
  on: 'font-semibold text-ink shadow-[0_2px_0_var(--ink)]',
} as const;

/** A quiet control that shows the key it also answers to. */
export function ActHint({ act, tone = 'quiet', isOn, hidesKey = false }: ActHintProps) {
  const { may = true } = act;
  return (
    <button
      type="button"
      {...pressed(act)}
      disabled={!may}
      aria-label={accessibleName(act)}
      aria-pressed={isOn}
      className={`group flex max-w-full items-center gap-1.5 rounded px-1 py-0.5 text-left text-[0.85rem] whitespace-nowrap hover:text-ink pointer-coarse:rounded-lg pointer-coarse:border pointer-coarse:border-faint pointer-coarse:px-2.5 disabled:opacity-45 ${TONES[isOn ? 'on' : tone]}`}
    >
      {!hidesKey && <KeyCap act={act} />}
      {shownWords(act) || <span className="without-keys">{act.name}</span>}
    </button>
  );
}

/** The small key beside an act; nothing where it has none. */
export function KeyCap({ act }: { readonly act: Act }) {
  const key = useShownKey(act);
  if (key === '') return null;
  return (
    <kbd
      aria-hidden
      className="min-w-6 rounded-md border border-quiet px-1.5 py-px text-center font-text text-[0.75rem] font-bold text-ink group-hover:border-ink"
    >
      {key}
    </kbd>
  );
}

interface ActButtonProps {
  readonly act: Act;
  /** The one filled button of a screen. */
  readonly filled?: boolean;
  readonly children?: ReactNode;
}

/** An act as a button with its key on it. */
export function ActButton({ act, filled = false, children }: ActButtonProps) {
  const key = useShownKey(act);
  return (
    <Button
      filled={filled}
      disabled={act.may === false}
      {...pressed(act)}
      className="flex items-center gap-2"
    >
      {key && (
        <kbd aria-hidden className="rounded border border-current px-1.5 text-xs">
          {key}
        </kbd>
      )}
      {children ?? shownWords(act)}
    </Button>
  );
}
