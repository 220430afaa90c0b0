import {
  barLabels,
  readShorthand,
  writeShorthand,
  type Piece,
  type ShorthandReading,
} from '@anchorbeat/core';
import { forceLinting } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { barSelected } from '../../store/mapSlice.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { useEdit } from '../useEdit.ts';
import { usePresent } from '../usePresent.ts';
import { Changes } from './Changes.tsx';
import type { Preview } from './panels.ts';
import { labelsSet, wordsExtensions } from './wordsEditor.ts';

interface WordsProps {
  readonly onPreview: Preview;
  readonly onClose: () => void;
}

/** The piece as a text to read aloud and to write: faults show where they are, the line what it would become. */
export function Words({ onPreview }: WordsProps) {
  const present = usePresent();
  const edit = useEdit();
  const [reading, setReading] = useState<ShorthandReading | null>(null);
  const [isEdited, setEdited] = useState(false);
  const take = (text?: string) => {
    const piece = text === undefined ? reading?.piece : readShorthand(text, present).piece;
    if (piece && edit({ kind: 'replacePiece', piece, how: 'In words' })) setEdited(false);
  };
  const host = useWordsEditor({
    present,
    isEdited,
    onRead: setReading,
    onEdited: () => setEdited(true),
    onTake: take,
  });
  const becomes = isEdited ? (reading?.piece ?? null) : null;
  useEffect(() => onPreview(becomes), [becomes, onPreview]);
  useEffect(() => () => onPreview(null), [onPreview]);
  return (
    <div className="grid gap-3">
      <div ref={host} data-testid="words-editor" />
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={!becomes} onClick={() => take()}>
          Take it in <kbd className="ml-1 font-text text-sm font-normal text-quiet">ctrl Enter</kbd>
        </Button>
        <p className="min-w-40 flex-1 text-sm text-quiet">
          Read it aloud: what stands before a bar comes on the line above it, what stands after it below.
        </p>
      </div>
      <Outcome present={present} reading={reading} isEdited={isEdited} />
    </div>
  );
}

interface OutcomeProps {
  readonly present: Piece;
  readonly reading: ShorthandReading | null;
  readonly isEdited: boolean;
}

function Outcome({ present, reading, isEdited }: OutcomeProps) {
  if (!reading || !isEdited) return <p className="text-quiet">The words and the line say the same.</p>;
  if (reading.piece)
    return (
      <section aria-label="What will change" role="status">
        <h3 className="mb-1 font-bold">Will change</h3>
        <Changes from={present} to={reading.piece} none="Nothing: it says what the line says." />
      </section>
    );
  return (
    <section role="status" aria-label="What is wrong">
      <ul className="grid gap-1 font-semibold text-problem">
        {reading.problems.map(({ message }, index) => (
          <li key={index}>{message}</li>
        ))}
      </ul>
    </section>
  );
}

interface EditorHookOptions {
  readonly present: Piece;
  readonly isEdited: boolean;
  readonly onRead: (reading: ShorthandReading) => void;
  readonly onEdited: () => void;
  readonly onTake: (text: string) => void;
}

/** Keeps the editor and the piece in step: an unedited text follows the piece, the cursor and the selected bar go together. */
function useWordsEditor(options: EditorHookOptions): RefObject<HTMLDivElement | null> {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(options);
  const lastReading = useRef<ShorthandReading | null>(null);
  const dispatch = useAppDispatch();
  const focusBar = useAppSelector((state) => state.map.focusBar);
  const startBar = useRef(focusBar);
  useEffect(() => {
    latest.current = options;
  });
  useEffect(() => {
    if (!host.current) return undefined;
    const read = (text: string) => {
      const reading = readShorthand(text, latest.current.present);
      lastReading.current = reading;
      latest.current.onRead(reading);
      queueMicrotask(() => created.dispatch({ effects: labelsSet.of(labelsByLine(created.state, reading)) }));
      return reading;
    };
    const created = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: writeShorthand(latest.current.present),
        extensions: wordsExtensions({
          read,
          onEdited: () => latest.current.onEdited(),
          onEnter: (text) => latest.current.onTake(text),
          onCursor: (position) => {
            const bar = barAtPosition(lastReading.current, position);
            if (bar !== null) dispatch(barSelected({ bar }));
          },
        }),
      }),
    });
    view.current = created;
    forceLinting(created);
    const line = readShorthand(created.state.doc.toString(), latest.current.present).barLines[
      startBar.current
    ];
    created.dispatch({ selection: { anchor: line?.to ?? 0 }, scrollIntoView: true });
    created.focus();
    return () => {
      view.current = null;
      created.destroy();
    };
  }, [dispatch]);
  const { present, isEdited } = options;
  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    if (!isEdited) {
      const text = writeShorthand(present);
      const now = editor.state.doc.toString();
      const saysTheSame = now === text || readShorthand(now, present).piece === present;
      if (!saysTheSame && !sameWords(now, present))
        editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text } });
    }
    forceLinting(editor);
  }, [present, isEdited]);
  return host;
}

/** Whether a text, however it is laid out, already stands for the piece. */
function sameWords(text: string, piece: Piece): boolean {
  const { piece: read } = readShorthand(text, piece);
  return read !== null && writeShorthand(read) === writeShorthand(piece);
}

/** The last bar whose line begins at or before the cursor: the bar the words around it are about. */
function barAtPosition(reading: ShorthandReading | null, position: number): number | null {
  const lines = reading?.barLines ?? [];
  const at = lines.findIndex(({ to }) => to >= position);
  return at >= 0 ? at : lines.length > 0 ? lines.length - 1 : null;
}

function labelsByLine(state: EditorState, reading: ShorthandReading): ReadonlyMap<number, string> {
  const labels = reading.piece ? barLabels(reading.piece) : [];
  const byLine = new Map<number, string>();
  reading.barLines.forEach(({ from }, bar) => {
    if (from > state.doc.length) return;
    const line = state.doc.lineAt(from).number;
    const label = labels[bar];
    if (label && !byLine.has(line)) byLine.set(line, label);
  });
  return byLine;
}
