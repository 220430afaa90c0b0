import {
  applyEdit,
  equivalenceOutcomeMaybe,
  inNoteNames,
  type EquivalenceOutcome,
  spanName,
  type BarSpan,
  type Edit,
  type Piece,
  type TempoMark,
} from '@anchorbeat/core';
import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import { BarRhythm } from '../line/BarRhythm.tsx';
import { EquivalenceText, TempoText } from '../line/NoteText.tsx';
import { barSelected, spanSelected } from '../store/mapSlice.ts';
import { useAppDispatch } from '../store/store.ts';
import { isByPointer } from '../input/lastHand.ts';
import { useIsTouch } from '../input/useIsTouch.ts';
import { EntryPad } from './EntryPad.tsx';
import { ENTRY_PADS, typedWith } from './entryPads.ts';
import { ENTRIES, type EntryAct, type EntryKind } from './entries.ts';
import { ResultingTempo } from './ResultingTempo.tsx';
import { useEdit } from './useEdit.ts';

interface EntryProps {
  readonly kind: EntryKind;
  readonly initial: string;
  readonly span: BarSpan;
  readonly piece: Piece;
  readonly onClose: () => void;
}

/** The line one types on: what it is for, the text, and at once what it will do or why it cannot. */
export function Entry({ kind, initial, span, piece, onClose }: EntryProps) {
  const definition = ENTRIES[kind];
  const dispatch = useAppDispatch();
  const edit = useEdit();
  const id = useId();
  const [text, setText] = useState(initial || definition.initial({ piece, span, isWide: false }));
  const [wasEntered, setEntered] = useState(false);
  const reading = definition.read(text, { piece, span, isWide: false });
  const outcome = reading.ok ? outcomeOf(piece, reading.value) : { problem: reading.problem.message };
  const showsProblem = wasEntered || text.trim().length > 1;

  const enter = (isWide: boolean) => {
    setEntered(true);
    const act = definition.read(text, { piece, span, isWide });
    if (!act.ok) return;
    if (act.value.kind === 'go') dispatch(barSelected({ bar: act.value.bar }));
    else if (!edit(act.value.edit)) return;
    // What was added is what one goes on with.
    else if (act.value.edit.kind === 'insertBars')
      dispatch(spanSelected({ from: act.value.edit.at, count: act.value.edit.count }));
    onClose();
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') enter(event.shiftKey);
    else if (event.key === 'Escape') onClose();
    else return;
    event.preventDefault();
  };
  const pad = ENTRY_PADS[kind];
  const isTouch = useIsTouch();
  // Whoever came with a pointer goes on with it.
  const [isByHand] = useState(isByPointer);
  const [isUntouched, setUntouched] = useState(initial === '');
  const type = (typed: string) => {
    setUntouched(false);
    setText(typed);
  };
  return (
    <div
      data-layer
      className="absolute inset-x-0 top-9 z-20 border-b border-faint bg-ground px-3 pt-2 pb-2 @3xl:top-13 @3xl:px-6"
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <label htmlFor={id} className="font-semibold whitespace-nowrap max-sm:whitespace-normal">
          {definition.prompt} {spanName(piece, span)}
        </label>
        <input
          id={id}
          autoFocus
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          inputMode={isTouch && pad ? 'none' : undefined}
          value={text}
          aria-describedby={`${id}-says`}
          aria-invalid={showsProblem && 'problem' in outcome}
          onChange={(event) => type(event.target.value)}
          onFocus={(event) => (initial ? undefined : event.target.select())}
          onKeyDown={onKeyDown}
          onBlur={(event) => !event.relatedTarget && onClose()}
          className="numeral w-64 max-w-full min-w-32 flex-1 rounded-lg border-2 border-ink bg-raised px-3 py-1.5 text-lg @3xl:flex-none"
        />
        <EntryButtons kind={kind} onEnter={enter} onClose={onClose} />
      </div>
      <p id={`${id}-says`} role="status" className="mt-1.5 min-h-7 text-[0.95rem]">
        <Told outcome={outcome} example={showsProblem ? null : definition.example} />
      </p>
      {(isTouch || isByHand) && pad && (
        <EntryPad
          pad={pad}
          onKey={(key) => type(typedWith(text, key, isUntouched))}
          onBack={() => type(text.trimEnd().slice(0, -1))}
        />
      )}
    </div>
  );
}

interface EntryButtonsProps {
  readonly kind: EntryKind;
  readonly onEnter: (isWide: boolean) => void;
  readonly onClose: () => void;
}

/** What Enter and Escape do, for a hand without keys. */
function EntryButtons({ kind, onEnter, onClose }: EntryButtonsProps) {
  const look =
    'whitespace-nowrap max-sm:whitespace-normal rounded-lg px-2 py-1 text-sm text-quiet hover:text-ink';
  return (
    <div
      className="flex flex-wrap items-center gap-x-1 [&_kbd]:font-text [&_kbd]:font-bold [&_kbd]:text-ink"
      onPointerDown={(event) => event.preventDefault()}
    >
      <button
        type="button"
        className={`${look} pointer-coarse:bg-ink pointer-coarse:px-4 pointer-coarse:font-semibold pointer-coarse:text-ground`}
        onClick={() => onEnter(false)}
      >
        <kbd>Enter</kbd> Set it
      </button>
      {kind === 'meter' && (
        <button type="button" className={look} onClick={() => onEnter(true)}>
          <kbd>Shift Enter</kbd> until the next meter
        </button>
      )}
      <button type="button" className={look} onClick={onClose}>
        <kbd>Esc</kbd> Leave it
      </button>
    </div>
  );
}

type Outcome = { readonly says: ReactNode } | { readonly problem: string };

interface ToldProps {
  readonly outcome: Outcome;
  /** Told instead of a problem, before there is much to find fault with. */
  readonly example: string | null;
}

/** What will come of it, or why nothing can. */
function Told({ outcome, example }: ToldProps) {
  if ('says' in outcome) return <span className="first-letter:uppercase inline-block">{outcome.says}</span>;
  return example === null ? (
    <span className="font-semibold text-problem">{outcome.problem}</span>
  ) : (
    <span className="text-quiet">For example {inNoteNames(example)}</span>
  );
}

function outcomeOf(piece: Piece, act: EntryAct): Outcome {
  if (act.kind === 'go') return { says: `Goes to ${spanName(piece, { from: act.bar, count: 1 })}` };
  const result = applyEdit(piece, act.edit);
  if (!result.ok) return { problem: result.problem.message };
  return { says: drawnMaybe(piece, act.edit, result.value.says) ?? result.value.says };
}

/** Notes and tempi are shown as they will be drawn. */
function drawnMaybe(piece: Piece, edit: Edit, says: string): ReactNode {
  if (edit.kind === 'setTempoMark' && (edit.mark.equivalence ?? edit.mark.stated))
    return <DrawnMark mark={edit.mark} says={says} outcome={equivalenceOutcomeMaybe(piece, edit)} />;
  if (edit.kind !== 'setRhythm' || !edit.rhythm) return undefined;
  const bar = piece.bars[edit.bar];
  return bar && <BarRhythm bar={bar} rhythm={edit.rhythm} />;
}

interface DrawnMarkProps {
  readonly mark: TempoMark;
  readonly says: string;
  readonly outcome: EquivalenceOutcome | null;
}

function DrawnMark({ mark, says, outcome }: DrawnMarkProps) {
  return (
    <span className="flex flex-wrap items-center gap-x-4">
      <span className="pt-2 text-lg font-semibold">
        {mark.equivalence && <EquivalenceText equivalence={mark.equivalence} />}
        {mark.equivalence && mark.stated && ', '}
        {mark.stated && <TempoText tempo={mark.stated} />}
      </span>
      {outcome && <ResultingTempo outcome={outcome} />}
      <span className="text-quiet">{says}</span>
    </span>
  );
}
