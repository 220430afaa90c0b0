import {
  applyEdit,
  bpmOf,
  commonestBeat,
  noteValueOfLengthMaybe,
  pulseOf,
  rateAtBar,
  tempoMapOf,
  toNumber,
  type Edit,
  type Equivalence,
  type Piece,
} from '@anchorbeat/core';
import { EquivalenceText, TempoText } from '../line/NoteText.tsx';

/** Beats a minute outside of which a written equivalence is more likely meant the other way round. */
const USUAL_BPM = { slowest: 35, fastest: 220 };

interface ResultingTempoProps {
  readonly piece: Piece;
  readonly edit: Extract<Edit, { kind: 'setTempoMark' }>;
  readonly equivalence: Equivalence;
}

/** What an equivalence makes of the tempo, before it is set: the beat after it, and the beat before it for comparison. */
export function ResultingTempo({ piece, edit, equivalence }: ResultingTempoProps) {
  const turned = { before: equivalence.after, after: equivalence.before };
  const result = beatAfterMaybe(piece, edit);
  if (!result) return null;
  const other = beatAfterMaybe(piece, { ...edit, mark: { ...edit.mark, equivalence: turned } });
  const isUsual = isUsualBpm(result.bpm);
  return (
    <span className="flex flex-wrap items-center gap-x-3 pt-2">
      <span>
        gives <TempoText tempo={result} />
      </span>
      {!isUsual && other && isUsualBpm(other.bpm) && (
        <span className="font-semibold text-problem">
          far from usual: was <EquivalenceText equivalence={turned} /> meant, which gives{' '}
          <TempoText tempo={other} />?
        </span>
      )}
    </span>
  );
}

function isUsualBpm(bpm: { readonly n: number; readonly d: number }): boolean {
  return toNumber(bpm) >= USUAL_BPM.slowest && toNumber(bpm) <= USUAL_BPM.fastest;
}

/** The beat of the bar as it goes once a mark is set. */
function beatAfterMaybe(piece: Piece, edit: Extract<Edit, { kind: 'setTempoMark' }>) {
  const edited = applyEdit(piece, edit);
  const bar = edited.ok ? edited.value.piece.bars[edit.bar] : undefined;
  if (!edited.ok || !bar) return null;
  const beat = commonestBeat(pulseOf(bar)).lengthWholes;
  const unit = noteValueOfLengthMaybe(beat);
  return unit && { unit, bpm: bpmOf(rateAtBar(tempoMapOf(edited.value.piece), edit.bar), beat) };
}
