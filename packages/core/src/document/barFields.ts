import type { Bar } from '../piece/piece.ts';
import type { BarDocument } from './document.ts';
import type { BarField } from './fields/barField.ts';
import { countOffField } from './fields/countOffField.ts';
import { holdsField } from './fields/holdsField.ts';
import { meterField, partialField } from './fields/meterFields.ts';
import { endingField, endsRepeatField, navigationField, startsRepeatField } from './fields/routeFields.ts';
import { answersField, sectionMarksField } from './fields/saidFields.ts';
import { pulseField, rhythmField } from './fields/soundFields.ts';
import { tempoMarksField } from './fields/tempoField.ts';
import { labelField, noteField, rehearsalMarkField } from './fields/textFields.ts';

/**
 * Every field of a bar, in the order in which a document has them and they are read. A bar with a field that is not here
 * does not compile.
 */
export const BAR_FIELDS: { readonly [K in keyof Required<Bar>]: BarField<K> } = {
  meter: meterField,
  label: labelField,
  partial: partialField,
  rehearsalMark: rehearsalMarkField,
  tempoMarks: tempoMarksField,
  holds: holdsField,
  startsRepeat: startsRepeatField,
  endsRepeat: endsRepeatField,
  ending: endingField,
  navigation: navigationField,
  pulse: pulseField,
  rhythm: rhythmField,
  answers: answersField,
  sectionMarks: sectionMarksField,
  note: noteField,
  countOff: countOffField,
};

export const BAR_FIELD_NAMES = Object.keys(BAR_FIELDS) as Array<keyof Bar>;

/** All names that a bar may have in a document. */
export const BAR_DOCUMENT_NAMES = BAR_FIELD_NAMES.flatMap((name) => BAR_FIELDS[name].names);

/** A bar as a document says it, its meter with it. */
export function writeBar(bar: Bar): BarDocument {
  const document: BarDocument = {};
  for (const name of BAR_FIELD_NAMES) {
    const value = bar[name];
    if (value !== undefined)
      Object.assign(document, (BAR_FIELDS[name].write as (of: unknown) => object)(value));
  }
  return document;
}

/** Whether whatever changed between two bars leaves tempo map, route and labels as they were. */
export function changesStayLocal(was: Bar, is: Bar): boolean {
  return BAR_FIELD_NAMES.every((name) => isAlike(was[name], is[name]) || staysLocal(name, was, is));
}

function staysLocal<K extends keyof Bar>(name: K, was: Bar, is: Bar): boolean {
  return BAR_FIELDS[name].staysLocal(was[name], is[name]);
}

/** By content: a bar that came from another thread shares nothing with the one it replaces. */
function isAlike(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}
