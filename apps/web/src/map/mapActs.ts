import type { Act, KeyPress } from '../acts/act.ts';
import type { PanelKind } from '../store/mapSlice.ts';
import { ENTRIES, ENTRY_KINDS, type EntryKind } from './entries.ts';
import { PANEL_KINDS, PANELS } from './panels/panels.ts';

const PAGE_BARS = 8;

/** What the acts of the map do, and what they need to know of it. */
export interface MapDoes {
  readonly barCount: number;
  readonly focusBar: number;
  readonly span: { readonly from: number; readonly count: number };
  readonly isRunning: boolean;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly select: (bar: number, extend: boolean) => void;
  readonly openEntry: (kind: EntryKind, initial: string) => void;
  readonly toggleRun: () => void;
  readonly deleteSelection: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly zoom: (steps: number) => void;
  readonly fit: () => void;
  readonly toggleTrueTo: () => void;
  readonly foldLanes: () => void;
  /** Moves the selected bars by one, earlier (−1) or later (1). */
  readonly moveBy: (bars: number) => void;
  readonly openPanel: (kind: PanelKind) => void;
  readonly openBuilder: () => void;
  /** Goes to rehearse the selected bars. */
  readonly drill: () => void;
}

/** A digit or a bracket begins a meter, as if its key had been pressed first. */
const METER_BEGINS = [...'123456789('];

export type MapActs = Readonly<Record<OtherAct, Act>> & {
  readonly entries: Readonly<Record<EntryKind, Act>>;
  readonly panels: Readonly<Record<PanelKind, Act>>;
  readonly moves: readonly Act[];
};

type OtherAct =
  | 'run'
  | 'builder'
  | 'drill'
  | 'earlier'
  | 'later'
  | 'remove'
  | 'undo'
  | 'redo'
  | 'closer'
  | 'farther'
  | 'fit'
  | 'trueTo'
  | 'lanes';

/** Everything that can be done on the map, each act once. */
export function mapActs(map: MapDoes): MapActs {
  const act = (id: string, key: string, name: string, does: Act['does'], more: Partial<Act> = {}): Act => ({
    id: `map.${id}`,
    key,
    name,
    group: 'Map',
    does,
    ...more,
  });
  const { span } = map;
  return {
    entries: byKind(ENTRY_KINDS, (kind) => entryAct(kind, map)),
    panels: byKind(PANEL_KINDS, (kind) => panelAct(kind, map)),
    moves: moveActs(map),
    run: act('run', ' ', map.isRunning ? 'Stop' : 'Count me in', map.toggleRun, { pedal: 'right pedal' }),
    builder: act('builder', 'q', 'work out a tempo', map.openBuilder, { label: 'work it out' }),
    drill: act('drill', 'D', 'drill the selected bars', map.drill, { label: 'drill' }),
    earlier: act('earlier', '<', 'move the selected bars earlier', () => map.moveBy(-1), {
      label: 'earlier',
      may: span.from > 0,
    }),
    later: act('later', '>', 'move the selected bars later', () => map.moveBy(1), {
      label: 'later',
      may: span.from + span.count < map.barCount,
    }),
    remove: act('remove', 'Delete', 'delete the selected bars', map.deleteSelection, {
      label: 'delete',
      alsoKeys: ['Backspace'],
    }),
    undo: act('undo', 'ctrl+z', 'undo', map.undo, { may: map.canUndo }),
    redo: act('redo', 'ctrl+Z', 'redo', map.redo, { may: map.canRedo, alsoKeys: ['ctrl+y'] }),
    closer: act('closer', '+', 'closer', () => map.zoom(1)),
    farther: act('farther', '-', 'farther', () => map.zoom(-1), { alsoKeys: ['−'] }),
    fit: act('fit', 'F', 'the whole piece on the page', map.fit),
    lanes: act('lanes', 'L', 'fold or show the sections under the line', map.foldLanes),
    trueTo: act('trueTo', 'v', 'true to time, or to ink', map.toggleTrueTo),
  };
}

export function allMapActs({ entries, panels, moves, ...others }: MapActs): readonly Act[] {
  return [...Object.values(others), ...moves, ...Object.values(entries), ...Object.values(panels)];
}

function entryAct(kind: EntryKind, { openEntry }: MapDoes): Act {
  const { key, name } = ENTRIES[kind];
  const begun = (press?: KeyPress) => (press && METER_BEGINS.includes(press.key) ? press.key : '');
  return {
    id: `map.enter.${kind}`,
    key,
    name,
    group: 'Write in the bars',
    ...(kind === 'meter' && { alsoKeys: METER_BEGINS }),
    does: (press) => openEntry(kind, begun(press)),
  };
}

function panelAct(kind: PanelKind, { openPanel }: MapDoes): Act {
  const { key, name, title } = PANELS[kind];
  return {
    id: `map.panel.${kind}`,
    key,
    name: title,
    label: name,
    group: 'Beside the line',
    does: () => openPanel(kind),
  };
}

function moveActs({ barCount, focusBar, select }: MapDoes): readonly Act[] {
  const move = (key: string, name: string, target: number): Act => ({
    id: `map.go.${key}`,
    key,
    name: `${name}; with shift, select up to there`,
    group: 'Move on the map',
    does: (press) => select(Math.min(Math.max(target, 0), barCount - 1), press?.shift ?? false),
  });
  return [
    move('ArrowLeft', 'a bar back', focusBar - 1),
    move('ArrowRight', 'a bar on', focusBar + 1),
    move('ArrowUp', 'eight bars back', focusBar - PAGE_BARS),
    move('ArrowDown', 'eight bars on', focusBar + PAGE_BARS),
    move('Home', 'to the first bar', 0),
    move('End', 'to the last bar', barCount - 1),
  ];
}

function byKind<K extends string, V>(kinds: readonly K[], value: (kind: K) => V): Readonly<Record<K, V>> {
  return Object.fromEntries(kinds.map((kind) => [kind, value(kind)])) as Record<K, V>;
}
