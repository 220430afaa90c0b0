import { autocompletion, completionKeymap, type CompletionSource } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { StateEffect, StateField, type Extension } from '@codemirror/state';
import { EditorView, gutter, GutterMarker, keymap } from '@codemirror/view';
import { inNoteNames, SHORTHAND_LINES, type ShorthandReading } from '@anchorbeat/core';
import { tags } from '@lezer/highlight';

const READ_AFTER_MS = 120;

/** Printed numbers by line of the text, from 1: what stands in the margin. */
export type LineLabels = ReadonlyMap<number, string>;

export const labelsSet = StateEffect.define<LineLabels>();

const labelsField = StateField.define<LineLabels>({
  create: () => new Map(),
  update: (labels, { effects }) => effects.find((effect) => effect.is(labelsSet))?.value ?? labels,
});

class BarNumber extends GutterMarker {
  constructor(readonly label: string) {
    super();
  }

  override eq(other: BarNumber): boolean {
    return other.label === this.label;
  }

  override toDOM(): Node {
    return document.createTextNode(this.label);
  }
}

/** The printed number of the first bar of each line. */
const barNumbers = gutter({
  class: 'cm-barNumbers',
  lineMarker: (view, block) => {
    const label = view.state.field(labelsField).get(view.state.doc.lineAt(block.from).number);
    return label === undefined ? null : new BarNumber(label);
  },
  lineMarkerChange: ({ transactions }) =>
    transactions.some(({ effects }) => effects.some((effect) => effect.is(labelsSet))),
});

export interface WordsEditorOptions {
  /** Reads the text; what it finds wrong is underlined where it stands. */
  readonly read: (text: string) => ShorthandReading;
  readonly onEdited: () => void;
  readonly onCursor: (position: number) => void;
  /** Enter with the command key: the text as it then is. */
  readonly onEnter: (text: string) => void;
}

/** A code editor for the shorthand: completion, faults at their exact place, bar numbers in the margin. */
export function wordsExtensions({ read, onEdited, onCursor, onEnter }: WordsEditorOptions): Extension {
  return [
    labelsField,
    barNumbers,
    history(),
    autocompletion({ override: [completeLine], icons: false }),
    linter(({ state }) => diagnosticsOf(read(state.doc.toString()), state.doc.length), {
      delay: READ_AFTER_MS,
    }),
    lintGutter(),
    StreamLanguage.define(shorthandTokens),
    syntaxHighlighting(LOOK_OF_TOKENS),
    keymap.of([
      { key: 'Mod-Enter', run: ({ state }) => (onEnter(state.doc.toString()), true) },
      ...completionKeymap,
      ...defaultKeymap,
      ...historyKeymap,
    ]),
    EditorView.lineWrapping,
    EditorView.contentAttributes.of({
      tabindex: '0',
      'aria-label': 'The piece in words, a line for bars or for a sign',
    }),
    EditorView.updateListener.of((update) => {
      if (
        update.docChanged &&
        update.transactions.some(
          (step) =>
            step.isUserEvent('input') ||
            step.isUserEvent('delete') ||
            step.isUserEvent('undo') ||
            step.isUserEvent('redo') ||
            step.isUserEvent('move'),
        )
      )
        onEdited();
      if (update.selectionSet && update.view.hasFocus) onCursor(update.state.selection.main.head);
    }),
    LOOK,
  ];
}

function diagnosticsOf({ problems }: ShorthandReading, length: number): Diagnostic[] {
  return problems.map(({ from, to, message }) => ({
    from: Math.min(from, length),
    to: Math.min(Math.max(to, from + 1), length),
    severity: 'error',
    message,
  }));
}

const CLAUSES = [
  { label: 'beaten in ', detail: 'how it is beaten: beaten in 2' },
  { label: 'notes ', detail: 'its notes: q q h' },
  { label: 'ending ', detail: 'the pass it is played on: ending 1' },
  { label: 'cut to ', detail: 'only the start of its meter: cut to 5/8' },
];

/** At the start of a line the lines there are; after a comma what can be said of bars. */
const completeLine: CompletionSource = ({ state, pos, explicit }) => {
  const line = state.doc.lineAt(pos);
  const before = line.text.slice(0, pos - line.from);
  const clause = /,\s*(\w*)$/.exec(before);
  if (clause && /\bbars?\b|^pickup/i.test(before)) {
    return { from: pos - (clause[1] ?? '').length, options: CLAUSES };
  }
  if (!explicit && (before.trim() === '' || before.length > 24)) return null;
  const options = SHORTHAND_LINES.map(({ begins, example, says }) => ({
    label: inNoteNames(begins),
    apply: inNoteNames(begins === example ? begins : `${begins} `),
    detail: says,
  }));
  return { from: line.from, options, validFor: /^[\w. ]*$/ };
};

const WORDS =
  /^(title|subtitle|composer|key|style)(?=\s*:)|^(pickup|mark|number|no number|tempo|hold|breath|repeat from here|repeat back|segno|coda|to coda|fine|D\.C\.|D\.S\.|last|until cued|more times?|bars?|of|in|on|at|beaten|notes|ending|cut to|as|al)\b/i;

const shorthandTokens = {
  token: (stream: { match: (pattern: RegExp | string) => unknown; next: () => unknown }) => {
    if (stream.match(/^"(?:[^"]|"")*"?/)) return 'string';
    if (stream.match(WORDS)) return 'keyword';
    if (stream.match(/^\d+(?:[./+]\d+)*/)) return 'number';
    if (stream.match(/^\S+?(?=[\s,:"]|$)/)) return null;
    stream.next();
    return null;
  },
};

const LOOK_OF_TOKENS = HighlightStyle.define([
  { tag: tags.keyword, color: 'var(--quiet)' },
  { tag: tags.number, color: 'var(--ink)', fontWeight: '700' },
  { tag: tags.string, color: 'var(--entry-text)' },
]);

const LOOK = EditorView.theme({
  '&': { fontSize: '1rem', color: 'var(--ink)', backgroundColor: 'var(--ground)', borderRadius: '0.5rem' },
  '&.cm-focused': { outline: '2px solid var(--entry)' },
  '.cm-content': { fontFamily: 'var(--font-text)', padding: '0.6rem 0', caretColor: 'var(--ink)' },
  '.cm-line': { padding: '0 0.7rem 0 0.4rem', lineHeight: '1.55' },
  '.cm-scroller': { fontFamily: 'var(--font-text)', maxHeight: '22rem' },
  '.cm-gutters': { backgroundColor: 'transparent', border: 'none', color: 'var(--quiet)' },
  '.cm-barNumbers .cm-gutterElement': {
    minWidth: '2.2rem',
    padding: '0 0.3rem 0 0',
    textAlign: 'right',
    fontFamily: 'var(--font-display)',
    fontSize: '0.85rem',
    lineHeight: '1.55rem',
  },
  '.cm-gutter-lint': { width: '1rem' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '3px double var(--problem)' },
  '.cm-lint-marker-error': { content: 'none' },
  '.cm-lint-marker': {
    width: '0.7rem',
    height: '0.7rem',
    transform: 'rotate(45deg) scale(0.8)',
    backgroundColor: 'var(--problem)',
  },
  '.cm-tooltip': {
    backgroundColor: 'var(--raised)',
    color: 'var(--ink)',
    border: '1px solid var(--quiet)',
    borderRadius: '0.4rem',
  },
  '.cm-diagnostic-error': { borderLeft: '4px solid var(--problem)' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--font-text)', maxHeight: '16rem' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    backgroundColor: 'var(--ink)',
    color: 'var(--ground)',
  },
  '.cm-completionDetail': { color: 'inherit', opacity: '0.85', fontStyle: 'normal', marginLeft: '0.8rem' },
  '.cm-selectionBackground, &.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground': {
    backgroundColor: 'var(--selection)',
  },
  '.cm-cursor': { borderLeftColor: 'var(--ink)', borderLeftWidth: '2px' },
});
