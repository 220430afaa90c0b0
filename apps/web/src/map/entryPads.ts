import type { EntryKind } from './entries.ts';

/** A key of a pad: what it types, drawn as a note where it is one. */
export interface PadKey {
  readonly types: string;
  /** What is seen on it where that is not what it types. */
  readonly shown?: string;
  readonly note?: string;
  /** Replaces what was typed: it is a whole answer. */
  readonly isWhole?: boolean;
}

export interface Pad {
  readonly rows: ReadonlyArray<readonly PadKey[]>;
}

const NOTES = ['h', 'q.', 'q', 'e.', 'e', 's'];
const digits: readonly PadKey[] = [...'1234567890'].map((types) => ({ types }));
const METERS = ['2/4', '3/4', '4/4', '5/4', '2/2', '3/8', '5/8', '6/8', '7/8', '9/8', '12/8'];
const grouping: readonly PadKey[] = [{ types: '/' }, { types: '+' }, { types: ' as ', shown: 'as' }];
/** Several in a bar, with a comma between. */
const signs: readonly PadKey[] = ['|:', ':|', 'segno', 'coda', 'fine', 'to coda', 'D.C.', 'D.S.'].map(
  (types) => ({ types }),
);

const notesTyping = (after: string): readonly PadKey[] =>
  NOTES.map((note) => ({ types: `${note}${after}`, note }));

/** What is entered with drawn notes and figures, so that a finger needs no letters; everything else is words. */
export const ENTRY_PADS: { readonly [K in EntryKind]?: Pad } = {
  meter: {
    rows: [METERS.map((types) => ({ types, isWhole: true })), [...digits, ...grouping]],
  },
  tempo: { rows: [notesTyping(' = '), [...digits, { types: '.' }, { types: '=' }]] },
  equivalence: {
    rows: [
      [...notesTyping(' '), { types: 'e3 ', note: 'e3' }, { types: 'q3 ', note: 'q3' }],
      [{ types: '= ', shown: '=' }],
    ],
  },
  pickup: { rows: [notesTyping(''), [...digits, { types: '/' }]] },
  pulse: { rows: [notesTyping(' '), [{ types: 'in ', shown: 'in' }, ...digits]] },
  add: {
    rows: [
      [...digits, { types: ' of ', shown: 'of' }],
      [...METERS.map((types) => ({ types })), ...grouping],
    ],
  },
  signs: {
    rows: [
      [...signs, { types: ' al coda', shown: 'al coda' }, { types: ' al fine', shown: 'al fine' }],
      [
        { types: 'ending ', shown: 'ending' },
        ...digits,
        { types: ' times', shown: 'times' },
        { types: ', ', shown: ',' },
      ],
    ],
  },
  repeat: { rows: [digits] },
  label: { rows: [digits] },
  go: { rows: [digits] },
};

/** What stands in the line after a key of its pad; the text that was there to begin with gives way to the first one. */
export function typedWith(text: string, key: PadKey, isUntouched: boolean): string {
  return key.isWhole || isUntouched ? key.types.trimStart() : text + key.types;
}
