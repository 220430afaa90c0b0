import { always, never, type BarField } from './barField.ts';

/** Printed number where it does not simply count on; null for a bar that has none. */
export const labelField: BarField<'label'> = {
  names: ['label'],
  read: ({ reader, fields, path }) => (fields['label'] === null ? null : reader.text(fields, 'label', path)),
  write: (label) => ({ label }),
  words: ({ label }) => (label === undefined ? '' : label === null ? 'no number' : `number ${label}`),
  staysLocal: never,
  inShorthand: true,
};

export const rehearsalMarkField: BarField<'rehearsalMark'> = {
  names: ['rehearsalMark'],
  read: ({ reader, fields, path }) => reader.text(fields, 'rehearsalMark', path),
  write: (rehearsalMark) => ({ rehearsalMark }),
  words: ({ rehearsalMark }) => (rehearsalMark ? `rehearsal mark ${rehearsalMark}` : ''),
  staysLocal: never,
  inShorthand: true,
};

/** A word to the ensemble. */
export const noteField: BarField<'note'> = {
  names: ['note'],
  read: ({ reader, fields, path }) => reader.text(fields, 'note', path),
  write: (note) => ({ note }),
  words: ({ note }) => (note ? `note "${note}"` : ''),
  staysLocal: always,
  inShorthand: false,
};
