import { spanName, type BarSpan, type Piece } from '@anchorbeat/core';
import { useProof } from '../app/PieceLayout.tsx';
import { openFindings } from '../line/FindingMarks.tsx';
import type { PanelKind } from '../store/mapSlice.ts';
import { useAppSelector } from '../store/store.ts';
import { KeyHint } from '../ui/KeyHint.tsx';
import { ENTRIES, type EntryKind } from './entries.ts';
import { PANEL_KINDS, PANELS } from './panels/panels.ts';
import { BUILDER_KEY, DRILL_KEY } from './useMapKeys.ts';

interface KeyHintsProps {
  readonly piece: Piece;
  readonly span: BarSpan;
  readonly isRunning: boolean;
  readonly onRun: () => void;
  readonly onEntry: (kind: EntryKind) => void;
  readonly onBuilder: () => void;
  readonly onDrill: () => void;
  readonly onPanel: (kind: PanelKind) => void;
  readonly onMove: (bars: number) => void;
  readonly onDelete: () => void;
  readonly onUndo: () => void;
  readonly onRedo: () => void;
  readonly onZoom: (steps: number) => void;
}

/** What is written in a bar; then what is said about it. */
const MUSIC: readonly EntryKind[] = [
  'meter',
  'tempo',
  'equivalence',
  'pickup',
  'hold',
  'signs',
  'pulse',
  'notes',
  'add',
];
const PLACES: readonly EntryKind[] = ['repeat', 'mark', 'label', 'section', 'rest', 'note', 'go'];

function EntryHint({
  kind,
  onEntry,
}: {
  readonly kind: EntryKind;
  readonly onEntry: (kind: EntryKind) => void;
}) {
  return <KeyHint keyName={ENTRIES[kind].key} label={ENTRIES[kind].name} onPress={() => onEntry(kind)} />;
}

/** What can be done here, each with its key; the one filled button is what one came for. */
export function KeyHints(props: KeyHintsProps) {
  const { piece, span, isRunning } = props;
  const open = useAppSelector((state) => state.piece.open);
  const lastSays = open?.past.at(-1)?.says;
  return (
    <div className="grid gap-1.5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <button
          type="button"
          onClick={(event) => {
            event.currentTarget.blur();
            props.onRun();
          }}
          className="flex items-center gap-2 rounded-lg bg-ink px-3.5 py-1.5 font-semibold text-ground"
        >
          <kbd className="rounded border border-current px-1.5 text-xs">space</kbd>
          {isRunning ? 'Stop' : 'Count me in'}
        </button>
        {MUSIC.map((kind) => (
          <EntryHint key={kind} kind={kind} onEntry={props.onEntry} />
        ))}
        <KeyHint keyName={BUILDER_KEY} label="work it out" onPress={props.onBuilder} />
        <KeyHint keyName={`⇧${DRILL_KEY}`} label="drill" onPress={props.onDrill} />
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="numeral font-semibold">{upperFirst(spanName(piece, span))}</span>
        {PLACES.map((kind) => (
          <EntryHint key={kind} kind={kind} onEntry={props.onEntry} />
        ))}
        <KeyHint keyName="<" label="earlier" onPress={() => props.onMove(-1)} disabled={span.from === 0} />
        <KeyHint
          keyName=">"
          label="later"
          onPress={() => props.onMove(1)}
          disabled={span.from + span.count >= piece.bars.length}
        />
        <KeyHint keyName="del" label="delete" onPress={props.onDelete} />
        <KeyHint keyName="ctrl z" label="undo" onPress={props.onUndo} disabled={!open?.past.length} />
        <KeyHint keyName="ctrl ⇧ z" label="redo" onPress={props.onRedo} disabled={!open?.future.length} />
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <PanelHints onPanel={props.onPanel} />
        <KeyHint keyName="+" label="closer" onPress={() => props.onZoom(1)} />
        <KeyHint keyName="−" label="farther" onPress={() => props.onZoom(-1)} />
        {lastSays && (
          <span className="min-w-0 flex-1 truncate text-[0.85rem] text-quiet">{upperFirst(lastSays)}</span>
        )}
      </div>
    </div>
  );
}

/** What opens beside the line; the checks say how many places want a look. */
function PanelHints({ onPanel }: { readonly onPanel: (kind: PanelKind) => void }) {
  const { compiled } = useProof();
  const panel = useAppSelector((state) => state.map.panel);
  const toLookAt = openFindings(compiled).length;
  return PANEL_KINDS.map((kind) => {
    const { key, name } = PANELS[kind];
    const label = kind === 'checks' && toLookAt > 0 ? `${toLookAt} to look at` : name;
    return (
      <span key={kind} className={panel === kind ? 'border-b-2 border-ink' : 'border-b-2 border-transparent'}>
        <KeyHint
          keyName={key}
          label={label}
          tone={kind === 'checks' && toLookAt > 0 ? 'problem' : 'quiet'}
          onPress={() => onPanel(kind)}
        />
      </span>
    );
  });
}

function upperFirst(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
