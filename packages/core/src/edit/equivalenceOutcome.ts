import { toNumber } from '../fraction/fraction.ts';
import type { Piece } from '../piece/piece.ts';
import { commonestBeat, feltBeats } from '../pulse/pulse.ts';
import { rateAtBar, tempoMapOf } from '../tempo/tempoMap.ts';
import { bpmOf, type Equivalence, type StatedTempo } from '../tempo/tempoMark.ts';
import { noteValueOfLengthMaybe } from '../value/noteValue.ts';
import { applyEdit } from './applyEdit.ts';
import type { Edit } from './edit.ts';

type TempoEdit = Extract<Edit, { kind: 'setTempoMark' }>;

/** Beats a minute outside of which an equivalence is more likely meant the other way round. */
const USUAL_BPM = { slowest: 35, fastest: 220 };

/** What an equivalence makes of the tempo. */
export interface EquivalenceOutcome {
  /** The beat of its bar as it then goes. */
  readonly tempo: StatedTempo;
  /** The other way round, where the tempo is far from usual and that one is not. */
  readonly likelier: { readonly equivalence: Equivalence; readonly tempo: StatedTempo } | null;
}

/** What a mark with an equivalence at the start of its bar would do; null where it sets none, or is refused. */
export function equivalenceOutcomeMaybe(piece: Piece, edit: TempoEdit): EquivalenceOutcome | null {
  const { equivalence, atWholes } = edit.mark;
  const tempo = equivalence && atWholes.n === 0 ? beatAfterMaybe(piece, edit) : null;
  if (!equivalence || !tempo) return null;
  if (isUsual(tempo)) return { tempo, likelier: null };
  const turned = { before: equivalence.after, after: equivalence.before };
  const other = beatAfterMaybe(piece, { ...edit, mark: { ...edit.mark, equivalence: turned } });
  return { tempo, likelier: other && isUsual(other) ? { equivalence: turned, tempo: other } : null };
}

function isUsual({ bpm }: StatedTempo): boolean {
  return toNumber(bpm) >= USUAL_BPM.slowest && toNumber(bpm) <= USUAL_BPM.fastest;
}

/** The beat of the bar as it goes once a mark is set; null where that is refused, or no note has its length. */
function beatAfterMaybe(piece: Piece, edit: TempoEdit): StatedTempo | null {
  const edited = applyEdit(piece, edit);
  const bar = edited.ok ? edited.value.piece.bars[edit.bar] : undefined;
  if (!edited.ok || !bar) return null;
  const beat = commonestBeat(feltBeats(bar)).lengthWholes;
  const unit = noteValueOfLengthMaybe(beat);
  return unit && { unit, bpm: bpmOf(rateAtBar(tempoMapOf(edited.value.piece), edit.bar), beat) };
}
