import type { Piece } from '../piece/piece.ts';
import type { Result } from '../problem/problem.ts';
import { answerFinding } from './answerFinding.ts';
import { clearTempoMarks } from './clearTempoMarks.ts';
import { deleteBars } from './deleteBars.ts';
import type { Edit, Edited, EditKind } from './edit.ts';
import { insertBars } from './insertBars.ts';
import { repeatBars } from './repeatBars.ts';
import { setLabel } from './setLabel.ts';
import { setMeter } from './setMeter.ts';
import { setHolds } from './setHolds.ts';
import { setPartial } from './setPartial.ts';
import { setPickup } from './setPickup.ts';
import { setPulse } from './setPulse.ts';
import { setPulseOnward } from './setPulseOnward.ts';
import { setRehearsalMark } from './setRehearsalMark.ts';
import { setRhythm } from './setRhythm.ts';
import { setSigns } from './setSigns.ts';
import { setTempoMark } from './setTempoMark.ts';
import { setTitle } from './setTitle.ts';
import { correctBy } from './correct.ts';
import { markSection } from './markSection.ts';
import { moveBars } from './moveBars.ts';
import { replacePiece } from './replacePiece.ts';
import { restBars } from './restBars.ts';
import { restSection } from './restSection.ts';
import { setCountOff } from './setCountOff.ts';
import { setHead } from './setHead.ts';
import { setNote } from './setNote.ts';

/** Every kind of edit, listed once. */
const EDIT_KINDS: { readonly [K in Edit['kind']]: EditKind<K> } = {
  insertBars,
  deleteBars,
  repeatBars,
  setMeter,
  setTempoMark,
  clearTempoMarks,
  setPickup,
  setLabel,
  setRehearsalMark,
  setPartial,
  setPulse,
  setPulseOnward,
  setRhythm,
  setHolds,
  setSigns,
  answerFinding,
  setTitle,
  setHead,
  moveBars,
  restBars,
  markSection,
  restSection,
  setNote,
  setCountOff,
  correct: correctBy(applyEdit),
  replacePiece,
};

/** The piece after an edit with its description, or the reason it cannot be made. The given piece is untouched. */
export function applyEdit(piece: Piece, edit: Edit): Result<Edited> {
  const kind = EDIT_KINDS[edit.kind] as EditKind<Edit['kind']>;
  return kind(piece, edit);
}
