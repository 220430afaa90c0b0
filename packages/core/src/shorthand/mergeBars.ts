import { alignBars } from '../difference/alignBars.ts';
import { BAR_FIELD_NAMES, BAR_FIELDS, writeBar } from '../document/barFields.ts';
import { ofOneShape, type Bar, type Piece } from '../piece/piece.ts';

/**
 * Bars that come from a text or a table, put in the place of those of a piece. A bar that says the same is the very bar
 * that was there; one that changed keeps what the text cannot say: answers, notes, sections, count-off.
 */
export function mergeBars(
  piece: Piece,
  bars: readonly Bar[],
  keeps: readonly KeptField[] = UNSAID,
): readonly Bar[] {
  const before = saidOf(piece.bars, keeps);
  const after = saidOf(bars, keeps);
  return alignBars(before, after).flatMap((step) => {
    if (step.kind === 'removed') return [];
    const said = bars[step.after] as Bar;
    if (step.kind === 'added') return [said];
    const was = piece.bars[step.before] as Bar;
    if (step.kind === 'kept') return [was];
    const kept: Partial<Bar> = Object.fromEntries(keeps.map((name) => [name, was[name]]));
    return [ofOneShape({ ...said, ...kept })];
  });
}

/** A field of a bar that a text or a table may leave unsaid. */
export type KeptField = Exclude<keyof Bar, 'meter'>;

/** What the shorthand has no words for. */
export const UNSAID: readonly KeptField[] = BAR_FIELD_NAMES.filter(
  (name): name is KeptField => name !== 'meter' && !BAR_FIELDS[name].inShorthand,
);

function saidOf(bars: readonly Bar[], keeps: readonly KeptField[]): readonly string[] {
  const nothing: Partial<Bar> = Object.fromEntries(
    keeps.map((name) => [name, name === 'tempoMarks' ? [] : undefined]),
  );
  const said = bars.map((bar): Bar => ({ ...bar, ...nothing }));
  return said.map((bar) => JSON.stringify(writeBar(bar)));
}
