import type { BarDocument, PieceDocument, TempoMarkDocument } from '@anchorbeat/core';
import { child, childrenOf, type XmlElement } from './xmlTree.ts';

/** The name of the field in which a file of ours keeps what MusicXML has no words for. */
export const UNSAID_FIELD = 'anchorbeat-details';
const LONGEST_FIELD = 15_000;

type Details = Readonly<Record<string, unknown>>;

/** One field that reads otherwise than it was: what a plain reading gives, and what it really is. */
interface Detail {
  /** Index of the bar; left out for the head of the piece. */
  readonly bar?: number;
  readonly field: string;
  readonly reads?: unknown;
  readonly is?: unknown;
}

/** What a plain reading of a piece's MusicXML would get otherwise than it is, as texts for fields of the file. */
export function unsaidTexts(really: PieceDocument, plain: PieceDocument): readonly string[] {
  const details = [
    ...differences(headOf(really), headOf(plain)),
    ...really.bars.flatMap((bar, index) =>
      differences(detailsOf(bar), detailsOf(plain.bars[index] ?? {})).map((detail) => ({
        bar: index,
        ...detail,
      })),
    ),
  ];
  const texts: string[] = [];
  let batch: Detail[] = [];
  for (const detail of details) {
    if (batch.length > 0 && JSON.stringify([...batch, detail]).length > LONGEST_FIELD) {
      texts.push(JSON.stringify(batch));
      batch = [];
    }
    batch.push(detail);
  }
  return batch.length > 0 ? [...texts, JSON.stringify(batch)] : texts;
}

/**
 * Puts back what the file keeps beside its music. A detail is taken only where the music still reads as it did when the
 * file was written: what somebody has changed since then stays changed.
 */
export function withUnsaid(
  document: PieceDocument,
  identification: XmlElement | undefined,
): { readonly document: PieceDocument; readonly taken: number } {
  const fields = childrenOf(child(identification, 'miscellaneous'), 'miscellaneous-field').filter(
    ({ attributes }) => attributes['name'] === UNSAID_FIELD,
  );
  const head: Record<string, unknown> = { ...document };
  const bars = document.bars.map((bar): Record<string, unknown> => ({ ...bar }));
  let taken = 0;
  for (const detail of fields.flatMap(({ text }) => detailsIn(text))) {
    const target = detail.bar === undefined ? head : bars[detail.bar];
    if (!target || !readsAs(target[detail.field], detail)) continue;
    if (detail.is === undefined) delete target[detail.field];
    else target[detail.field] = detail.is;
    taken++;
  }
  return {
    document: { ...(head as unknown as PieceDocument), bars: bars },
    taken,
  };
}

function detailsIn(text: string): readonly Detail[] {
  try {
    const details = JSON.parse(text) as unknown;
    return Array.isArray(details) ? details.filter(isDetail) : [];
  } catch {
    return [];
  }
}

const FIXED = ['format', 'version', 'bars', '__proto__', 'constructor'];

function isDetail(value: unknown): value is Detail {
  const detail = value as Detail | null;
  return (
    typeof detail === 'object' &&
    detail !== null &&
    typeof detail.field === 'string' &&
    !FIXED.includes(detail.field) &&
    (detail.bar === undefined || Number.isInteger(detail.bar))
  );
}

function detailsOf(bar: BarDocument): Details {
  return { ...bar };
}

function headOf({ format: _format, version: _version, bars: _bars, ...head }: PieceDocument): Details {
  return head;
}

function differences(really: Details, plain: Details): Detail[] {
  const fields = new Set([...Object.keys(really), ...Object.keys(plain)]);
  return [...fields]
    .filter((field) => !same(really[field], plain[field]))
    .map((field) => ({
      field,
      ...(plain[field] !== undefined && { reads: plain[field] }),
      ...(really[field] !== undefined && { is: really[field] }),
    }));
}

/** Files from when a ramp was read without a target, even where one comes next, still say so. */
function readsAs(now: unknown, { field, reads }: Detail): boolean {
  if (same(now, reads)) return true;
  if (field !== 'tempo' || !Array.isArray(now)) return false;
  const marks = now as readonly TempoMarkDocument[];
  return same(
    marks.map((mark) => (mark.ramp ? { ...mark, ramp: mark.ramp.replace(/ to .*/, '') } : mark)),
    reads,
  );
}

function same(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}
