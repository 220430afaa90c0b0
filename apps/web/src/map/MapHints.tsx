import { spanName, type BarSpan, type Piece } from '@anchorbeat/core';
import type { Act } from '../acts/act.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useSheetAct } from '../acts/SheetProvider.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { openFindings } from '../line/FindingMarks.tsx';
import { useAppSelector } from '../store/store.ts';
import type { EntryKind } from './entries.ts';
import type { MapActs } from './mapActs.ts';
import { PANEL_KINDS } from './panels/panels.ts';

interface MapHintsProps {
  readonly piece: Piece;
  readonly span: BarSpan;
  readonly acts: MapActs;
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

/** What can be done here, each with its key; the one filled button is what one came for. */
export function MapHints({ piece, span, acts }: MapHintsProps) {
  const open = useAppSelector((state) => state.piece.open);
  const sheet = useSheetAct();
  const lastSays = open?.past.at(-1)?.says;
  const hints = (list: readonly Act[]) => list.map((act) => <ActHint key={act.id} act={act} />);
  return (
    <div className="grid gap-1.5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <ActButton act={acts.run} filled />
        {hints([...MUSIC.map((kind) => acts.entries[kind]), acts.builder])}
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="numeral font-semibold">{upperFirst(spanName(piece, span))}</span>
        {hints(PLACES.map((kind) => acts.entries[kind]))}
        {hints([acts.earlier, acts.later, acts.remove, acts.undo, acts.redo])}
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <PanelHints acts={acts.panels} />
        {hints([acts.drill, acts.closer, acts.farther, { ...sheet, label: 'all keys' }])}
        {lastSays && (
          <span className="min-w-0 flex-1 truncate text-[0.85rem] text-quiet">{upperFirst(lastSays)}</span>
        )}
      </div>
    </div>
  );
}

/** What opens beside the line; the checks say how many places want a look. */
function PanelHints({ acts }: { readonly acts: MapActs['panels'] }) {
  const { compiled } = useProof();
  const panel = useAppSelector((state) => state.map.panel);
  const toLookAt = openFindings(compiled).length;
  return PANEL_KINDS.map((kind) => {
    const isAsking = kind === 'checks' && toLookAt > 0;
    const act = isAsking ? { ...acts[kind], label: `${toLookAt} to look at` } : acts[kind];
    return (
      <span key={kind} className={panel === kind ? 'border-b-2 border-ink' : 'border-b-2 border-transparent'}>
        <ActHint act={act} tone={isAsking ? 'problem' : 'quiet'} isOn={panel === kind} />
      </span>
    );
  });
}

function upperFirst(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
