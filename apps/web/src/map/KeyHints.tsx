import { spanName, type BarSpan, type Piece } from '@anchorbeat/core';
import { useAppSelector } from '../store/store.ts';
import { KeyHint } from '../ui/KeyHint.tsx';
import { Findings } from './Findings.tsx';
import { ENTRIES, type EntryKind } from './entries.ts';

interface KeyHintsProps {
  readonly piece: Piece;
  readonly span: BarSpan;
  readonly isRunning: boolean;
  readonly onRun: () => void;
  readonly onEntry: (kind: EntryKind) => void;
  readonly onDelete: () => void;
  readonly onUndo: () => void;
  readonly onRedo: () => void;
  readonly onZoom: (steps: number) => void;
}

/** What is written in a bar, and under it what finds and names it. */
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
  'repeat',
];
const PLACES: readonly EntryKind[] = ['mark', 'label', 'go'];

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
  const from = spanName(piece, { from: span.from, count: 1 });
  return (
    <div className="grid gap-2">
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
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="numeral font-semibold">
          {upperFirst(span.count > 1 ? spanName(piece, span) : from)}
        </span>
        {PLACES.map((kind) => (
          <EntryHint key={kind} kind={kind} onEntry={props.onEntry} />
        ))}
        <KeyHint keyName="del" label="delete" onPress={props.onDelete} />
        <KeyHint keyName="ctrl z" label="undo" onPress={props.onUndo} disabled={!open?.past.length} />
        <KeyHint keyName="ctrl ⇧ z" label="redo" onPress={props.onRedo} disabled={!open?.future.length} />
        <KeyHint keyName="+" label="closer" onPress={() => props.onZoom(1)} />
        <KeyHint keyName="−" label="farther" onPress={() => props.onZoom(-1)} />
        <Findings />
        {lastSays && <span className="truncate text-[0.85rem] text-quiet">{upperFirst(lastSays)}</span>}
      </div>
    </div>
  );
}

function upperFirst(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
