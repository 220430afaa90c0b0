import { applyEdit, spanName, type BarSpan, type Edit, type Piece } from '@anchorbeat/core';
import type { Act } from '../acts/act.ts';
import { ENTRIES, type EntryKind } from './entries.ts';

/** What figures and notes alone may stand for; words are sought among the acts. */
const OFFERED: readonly EntryKind[] = ['meter', 'equivalence', 'tempo', 'go'];
const SAYS_A_FIGURE = /[\d=]/;

interface OfferDoes {
  readonly edit: (edit: Edit) => void;
  readonly go: (barIndex: number) => void;
}

/** What can be written or gone to with what was typed into the list of acts: "7/8" is a meter, "66" a tempo or a bar. */
export function mapOffers(sought: string, piece: Piece, span: BarSpan, does: OfferDoes): readonly Act[] {
  const offers = OFFERED.flatMap((kind): readonly Act[] => {
    if (kind !== 'go' && !SAYS_A_FIGURE.test(sought)) return [];
    const reading = ENTRIES[kind].read(sought, { piece, span, isWide: false });
    if (!reading.ok) return [];
    const act = { id: `map.offer.${kind}`, key: '', group: 'With what you typed' };
    if (reading.value.kind === 'go') {
      const { bar } = reading.value;
      return [
        { ...act, name: `Go to ${spanName(piece, { from: bar, count: 1 })}`, does: () => does.go(bar) },
      ];
    }
    const { edit } = reading.value;
    const result = applyEdit(piece, edit);
    return result.ok ? [{ ...act, name: result.value.says, does: () => does.edit(edit) }] : [];
  });
  // An equivalence is read as a tempo too, and does the same.
  return offers.filter(({ name }, index) => offers.findIndex((offer) => offer.name === name) === index);
}
