import { createContext, useContext, useLayoutEffect, useState, type ReactNode } from 'react';
import type { Act, ActLayer, KeyPress } from './act.ts';
import { ActRegistry } from './actRegistry.ts';
import { keptKeys } from './ownKeys.ts';
import { pressOfMaybe } from './pressOf.ts';

const ActsContext = createContext<ActRegistry | null>(null);

/** Listens to the keyboard once for the whole app and does what its keys are for. */
export function ActsProvider({ children }: { readonly children: ReactNode }) {
  const [registry] = useState(() => new ActRegistry());
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || isForSomethingElse(event)) return;
      const press = pressOfMaybe(event);
      if (press && registry.press(press, keptKeys.get(), event.timeStamp)) event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [registry]);
  return <ActsContext value={registry}>{children}</ActsContext>;
}

export function useActRegistry(): ActRegistry {
  const registry = useContext(ActsContext);
  if (!registry) throw new Error('useActRegistry is used outside ActsProvider');
  return registry;
}

/**
 * What can be done while the caller is shown. `takesKey` sees every key before the acts of its layer do; `offers` says what
 * could be done with words typed into the list of all acts. What is on the screen answers to its keys at once: hence
 * layout effects, which run before the picture is seen.
 */
export function useActs(
  layer: ActLayer,
  acts: readonly Act[],
  takesKey?: (press: KeyPress) => boolean,
  offers?: (sought: string) => readonly Act[],
): void {
  const registry = useActRegistry();
  const [owner] = useState(() => Symbol(layer));
  useLayoutEffect(() => {
    registry.register(owner, { layer, acts, takesKey, offers });
  });
  useLayoutEffect(() => () => registry.remove(owner), [registry, owner]);
}

/** A pedal or pad is meant wherever the focus is; anything else may be for what has it. */
function isForSomethingElse(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  if (document.querySelector('[role="dialog"]')) return true;
  if (/^(pedal|pad) /.test(event.key)) return false;
  if (target?.closest('input, textarea, select, [contenteditable="true"], [role="slider"]')) return true;
  return (event.key === 'Enter' || event.key === ' ') && Boolean(target?.closest('button, a'));
}
