import { NOTE_NAMES, sayNotesIn } from '@anchorbeat/core';
import { Fragment, useEffect, type ReactNode } from 'react';
import { Kept, oneOf, useKept } from '../kept/kept.ts';
import { useEnsemble } from './useEnsemble.ts';

/** In whose English the ensemble that was last shown here names notes: a page begins with it. */
const keptNoteNames = new Kept('anchorbeat.noteNames', oneOf(NOTE_NAMES));

sayNotesIn(keptNoteNames.get());
keptNoteNames.subscribe(() => sayNotesIn(keptNoteNames.get()));

/** Everything below names notes as the ensemble does, and is said anew where that changes. */
export function SaidNotes({ children }: { readonly children: ReactNode }) {
  const { ensemble } = useEnsemble();
  const [names, keep] = useKept(keptNoteNames);
  const theirs = ensemble?.noteNames ?? names;
  useEffect(() => {
    if (theirs !== names) keep(theirs);
  }, [theirs, names, keep]);
  return <Fragment key={names}>{children}</Fragment>;
}
