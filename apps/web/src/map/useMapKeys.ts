import type { PanelKind } from '../store/mapSlice.ts';
import { useKeys, type KeyPress } from '../ui/useKeys.ts';
import { entryOfKeyMaybe, type EntryKind } from './entries.ts';
import { panelOfKeyMaybe } from './panels/panels.ts';

const PAGE_BARS = 8;
export const BUILDER_KEY = 'q';
export const DRILL_KEY = 'D';

export interface MapKeyActions {
  readonly barCount: number;
  readonly focusBar: number;
  readonly select: (bar: number, extend: boolean) => void;
  readonly openEntry: (kind: EntryKind, initial: string) => void;
  readonly toggleRun: () => void;
  readonly deleteSelection: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly zoom: (steps: number) => void;
  readonly toggleTrueTo: () => void;
  /** Moves the selected bars by one, earlier (−1) or later (1). */
  readonly moveBy: (bars: number) => void;
  readonly openPanel: (kind: PanelKind) => void;
  readonly openBuilder: () => void;
  /** Goes to rehearse the selected bars. */
  readonly drill: () => void;
}

/** The keys of the map. A digit or a bracket begins a meter, as if its key had been pressed first. */
export function useMapKeys(actions: MapKeyActions): void {
  useKeys((press) => {
    if (press.command) return commandKey(press, actions);
    return (
      movementKey(press, actions) ||
      actKey(press, actions) ||
      entryKey(press, actions) ||
      panelKey(press, actions)
    );
  });
}

function commandKey({ key, shift }: KeyPress, { undo, redo }: MapKeyActions): boolean {
  const letter = key.toLowerCase();
  if (letter === 'z' && !shift) undo();
  else if (letter === 'y' || (letter === 'z' && shift)) redo();
  else return false;
  return true;
}

function movementKey({ key, shift }: KeyPress, { barCount, focusBar, select }: MapKeyActions): boolean {
  const targets: Readonly<Record<string, number>> = {
    ArrowLeft: focusBar - 1,
    ArrowRight: focusBar + 1,
    ArrowUp: focusBar - PAGE_BARS,
    ArrowDown: focusBar + PAGE_BARS,
    Home: 0,
    End: barCount - 1,
  };
  const target = targets[key];
  if (target === undefined) return false;
  select(Math.min(Math.max(target, 0), barCount - 1), shift);
  return true;
}

function actKey({ key }: KeyPress, actions: MapKeyActions): boolean {
  const acts: Readonly<Record<string, () => void>> = {
    ' ': actions.toggleRun,
    Delete: actions.deleteSelection,
    Backspace: actions.deleteSelection,
    '+': () => actions.zoom(1),
    '-': () => actions.zoom(-1),
    '−': () => actions.zoom(-1),
    v: actions.toggleTrueTo,
    '<': () => actions.moveBy(-1),
    '>': () => actions.moveBy(1),
    [BUILDER_KEY]: actions.openBuilder,
    [DRILL_KEY]: actions.drill,
  };
  const act = acts[key];
  act?.();
  return act !== undefined;
}

function entryKey({ key }: KeyPress, { openEntry }: MapKeyActions): boolean {
  const kind = entryOfKeyMaybe(key);
  if (kind) openEntry(kind, '');
  else if (/^[1-9(]$/.test(key)) openEntry('meter', key);
  else return false;
  return true;
}

function panelKey({ key }: KeyPress, { openPanel }: MapKeyActions): boolean {
  const kind = panelOfKeyMaybe(key);
  if (kind) openPanel(kind);
  return kind !== null;
}
