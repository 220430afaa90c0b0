import {
  capital,
  howMany,
  pieceSeconds,
  routeWords,
  type BarSpan,
  type Piece,
  type TrueTo,
} from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import type { Act } from '../acts/act.ts';
import { ActButton, ActHint, KeyCap, pressed } from '../acts/ActButton.tsx';
import { useSheetAct } from '../acts/SheetProvider.tsx';
import { openFindings } from '../line/FindingMarks.tsx';
import { useAppSelector } from '../store/store.ts';
import { durationText } from '../ui/durationText.ts';
import { spanTitle } from './barFacts.ts';
import type { EntryKind } from './entries.ts';
import type { MapActs } from './mapActs.ts';
import { PANEL_KINDS } from './panels/panels.ts';
import { SaveLine } from './SaveLine.tsx';

/** What is written in a bar most; everything else is behind one key. */
const MOST_USED: readonly EntryKind[] = ['meter', 'tempo', 'equivalence', 'hold', 'mark'];

/** Title and facts, and what can stand beside the line. */
export function MapTitle({ acts }: { readonly acts: MapActs }) {
  const { piece, compiled } = useProof();
  const order = routeWords(piece, compiled.timeline.route);
  const isPlain = compiled.timeline.route.barIndex.length === piece.bars.length;
  const facts = [
    piece.subtitle,
    howMany(piece.bars.length, 'bar'),
    durationText(pieceSeconds(compiled.timeline)),
  ];
  return (
    <div className="flex min-w-0 items-baseline gap-x-4">
      <h1 className="min-w-0 truncate text-[1.35rem] font-bold @3xl:text-[1.75rem]">{piece.title}</h1>
      <p
        className="hidden min-w-0 flex-1 basis-0 truncate text-quiet @2xl:block"
        title={isPlain ? undefined : `Played: ${order}`}
      >
        {facts.filter(Boolean).join(' · ')}
        {!isPlain && ` · played ${order}`}
      </p>
      <span className="min-w-0 max-@2xl:ml-auto">
        <SaveLine />
      </span>
      <span className="-my-2 @3xl:hidden">
        <ToLookAt act={acts.panels.checks} />
      </span>
      <nav aria-label="Beside the line" className="hidden items-baseline gap-x-1 whitespace-nowrap @5xl:flex">
        <PanelTabs acts={acts.panels} />
      </nav>
    </div>
  );
}

/** What opens beside the line; the checks say how many places want a look. */
function PanelTabs({ acts }: { readonly acts: MapActs['panels'] }) {
  const panel = useAppSelector((state) => state.map.panel);
  return PANEL_KINDS.map((kind) => (
    <span key={kind} className={panel === kind ? 'border-b-2 border-ink' : 'border-b-2 border-transparent'}>
      {kind === 'checks' ? (
        <ToLookAt act={acts.checks} />
      ) : (
        <ActHint act={acts[kind]} isOn={panel === kind} hidesKey />
      )}
    </span>
  ));
}

function ToLookAt({ act }: { readonly act: Act }) {
  const { compiled } = useProof();
  const panel = useAppSelector((state) => state.map.panel);
  const count = openFindings(compiled).length;
  const shown = count > 0 ? { ...act, label: `${count} to look at` } : act;
  return <ActHint act={shown} tone={count > 0 ? 'problem' : 'quiet'} isOn={panel === 'checks'} hidesKey />;
}

interface MapActRowProps {
  readonly piece: Piece;
  readonly span: BarSpan;
  readonly acts: MapActs;
  readonly trueTo: TrueTo;
}

/** The one filled button is what one came for; beside it what is done most to the selected bars, and the way to the rest. */
export function MapActRow({ piece, span, acts, trueTo }: MapActRowProps) {
  const open = useAppSelector((state) => state.piece.open);
  const lastSays = open?.past.at(-1)?.says;
  return (
    <div className="flex min-w-0 items-center gap-x-3">
      <div className="shrink-0 max-@3xl:[&_kbd]:hidden">
        <ActButton act={acts.run} filled />
      </div>
      <span className="numeral hidden shrink-0 font-bold @6xl:inline">{spanTitle(piece, span)}</span>
      <div className="hidden h-11 min-w-0 flex-wrap content-start items-center gap-x-3 overflow-hidden @3xl:flex pointer-coarse:gap-x-1.5 [&>*]:h-11">
        <BarActs acts={acts} />
      </div>
      {open?.past.length !== 0 && (
        <span className="hidden @3xl:inline">
          <ActHint act={acts.undo} />
        </span>
      )}
      {lastSays && (
        <span className="hidden min-w-0 flex-1 basis-0 truncate text-[0.85rem] text-quiet @6xl:inline">
          {capital(lastSays)}
        </span>
      )}
      <div className="ml-auto flex shrink-0 items-center gap-x-2">
        <span className="hidden @5xl:inline">
          <TrueTo act={acts.trueTo} trueTo={trueTo} />
        </span>
        <span className="hidden @3xl:inline @5xl:hidden">
          <ToLookAt act={acts.panels.checks} />
        </span>
        <Everything />
      </div>
    </div>
  );
}

/** On small screens, where the thumb is. */
export function BarActs({ acts }: { readonly acts: MapActs }) {
  return (
    <>
      {MOST_USED.map((kind) => (
        <ActHint key={kind} act={acts.entries[kind]} />
      ))}
      <ActHint act={acts.drill} />
    </>
  );
}

function Everything() {
  const sheet = useSheetAct();
  return <ActHint act={{ ...sheet, label: 'all acts' }} />;
}

function TrueTo({ act, trueTo }: { readonly act: Act; readonly trueTo: TrueTo }) {
  return (
    <button
      type="button"
      className="px-1 text-[0.85rem] whitespace-nowrap text-quiet hover:text-ink"
      aria-label={`The line is true to ${trueTo}; press to switch`}
      {...pressed(act)}
    >
      <KeyCap act={act} /> true to <b className="text-ink">{trueTo}</b>
    </button>
  );
}
