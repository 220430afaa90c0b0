export { accepted, expectValue, refused } from './problem/problem.ts';
export type { Problem, Result } from './problem/problem.ts';

export {
  add,
  compare,
  divide,
  equal,
  fraction,
  multiply,
  subtract,
  sum,
  toNumber,
  ZERO,
} from './fraction/fraction.ts';
export type { Fraction } from './fraction/fraction.ts';
export { formatFraction, formatNumber } from './fraction/text.ts';

export {
  noteValue,
  noteValueLength,
  noteValueOfLengthMaybe,
  NOTE_BASES,
  singleNoteMaybe,
} from './value/noteValue.ts';
export type { NoteBase, NoteValue, Tuplet } from './value/noteValue.ts';
export { inNoteNames, NOTE_NAMES, noteNames, sayNotesIn } from './value/names.ts';
export type { NoteNames } from './value/names.ts';
export { formatNoteValue, noteLettersMaybe, noteWords, parseNoteValue } from './value/text.ts';

export { meterLength } from './meter/meter.ts';
export { meterBeat } from './meter/meterBeat.ts';
export type { Meter } from './meter/meter.ts';
export { formatMeter, isSameMeter, meterSign, parseMeter } from './meter/text.ts';

export { bpmOf, practiceRate, secondsOf, statedRate, TEMPO_RETURNS } from './tempo/tempoMark.ts';
export type { Equivalence, RampTarget, StatedTempo, TempoMark, TempoReturn } from './tempo/tempoMark.ts';
export { equivalencesBetween, noteMilliseconds, tempoAfter, tempoBefore } from './bench/triangle.ts';
export type { EquivalenceBetween } from './bench/triangle.ts';
export { tappedTempoMaybe } from './tempo/tapped.ts';
export { fitRampMaybe } from './tempo/rampFit.ts';
export type { RampFit, TempoPoint } from './tempo/rampFit.ts';
export { withNoteLetters } from './value/noteSigns.ts';
export { tempoProportionMaybe } from './tempo/proportion.ts';
export type { TempoProportion } from './tempo/proportion.ts';
export { rampSeconds } from './tempo/ramp.ts';
export type { RampCurve } from './tempo/ramp.ts';
export { simplestBetween } from './fraction/simplest.ts';
export { lawRate, rateAtBar, tempoMapOf } from './tempo/tempoMap.ts';
export type { TempoLaw } from './tempo/tempoMap.ts';
export {
  formatEquivalence,
  formatRamp,
  formatRampTarget,
  formatStatedTempo,
  parseEquivalence,
  parseStatedTempo,
} from './tempo/text.ts';

export {
  barLength,
  MAX_BARS,
  MAX_CORRECTIONS,
  MAX_REPEAT_TIMES,
  MAX_SECTIONS,
  MAX_TEXT_LENGTH,
  SECTION_ACTS,
} from './piece/piece.ts';
export type { Bar, Hold, Jump, LoggedCorrection, Piece, PulseChoice, SectionMark } from './piece/piece.ts';
export { barLabels, barName } from './piece/labels.ts';
export { PIECE_FORMAT, PIECE_FORMAT_VERSION } from './document/document.ts';
export { writePiece } from './document/writePiece.ts';
export type { BarDocument, HoldDocument, PieceDocument, TempoMarkDocument } from './document/document.ts';
export { readPiece } from './document/readPiece.ts';
export type { PieceReading } from './document/readPiece.ts';
export { turnEquivalences } from './piece/turnEquivalences.ts';
export { barsMoved, barsMovedIn, barsMovedToLast, barTexts } from './difference/barsMoved.ts';
export type { BarsMoved, BarTexts } from './difference/barsMoved.ts';
export { differencesBetween } from './difference/difference.ts';
export { mergePiecesMaybe, mergePiecesPreferring } from './difference/mergePieces.ts';
export type { Preferred } from './difference/mergePieces.ts';
export { passWords, routeWords } from './route/words.ts';
export { beatNote } from './pulse/beatNote.ts';
export { pulseOf } from './pulse/pulse.ts';
export { equivalenceOutcomeMaybe, type EquivalenceOutcome } from './edit/equivalenceOutcome.ts';
export { countOffAdvice } from './countoff/advice.ts';
export { pulseAdvice, pulseChoiceMaybe } from './pulse/advice.ts';
export { pulseAdviceAt } from './pulse/adviceAt.ts';
export { withLoneOddBarsGrouped } from './pulse/loneOddBars.ts';
export { inWords, parsePulseChoice } from './pulse/text.ts';
export { meterForLengthMaybe, rhythmLength } from './rhythm/rhythm.ts';
export type { Rhythm, RhythmNote } from './rhythm/rhythm.ts';
export { placedNotes, rhythmFill } from './rhythm/fill.ts';
export { formatRhythm, parseRhythm } from './rhythm/text.ts';
export { formatEnding, formatHoldLength, formatJump } from './piece/barText.ts';
export { countBar, countRest, slashPositions } from './count/countWord.ts';
export type { CountSchool } from './count/countWord.ts';
export { COUNT_SCHOOLS, countSchoolMaybe } from './count/schools.ts';
export { countBetween, oddShown } from './count/schools/oddShown.ts';
export { MAX_COUNT_OFF_BARS, PLAIN_COUNT_OFF } from './countoff/settings.ts';
export type { CountOffSettings } from './countoff/settings.ts';
export { COUNT_OFF_STYLES } from './countoff/styles.ts';
export { formatPitch, parsePitch } from './countoff/pitch.ts';
export { countOffFor } from './countoff/countOff.ts';
export type { CountOff } from './countoff/countOff.ts';

export type { PerformedHold, TempoSegment, Timeline } from './timeline/timeline.ts';
export { barStart, performedCount, pieceSeconds, rateAt, secondsAt } from './timeline/query.ts';
export { SAME_MOMENT_SECONDS } from './timeline/sameMoment.ts';

export { CLICK_KINDS, clickKind } from './click/clickPlan.ts';
export type { ClickKind } from './click/clickPlan.ts';
export { runFrom } from './run/planRun.ts';
export { runCallMaybe } from './run/runPlan.ts';
export type { RunClick, RunPlan } from './run/runPlan.ts';
export { allClicks, clicksIn } from './run/clicksIn.ts';
export type { RunWindow } from './run/clicksIn.ts';
export { heardBars, isHeardToEnd } from './run/heard.ts';
export { beatsIn } from './run/beatsIn.ts';
export { nextBoundaryMaybe } from './run/boundary.ts';
export { listedSounds, soundsOf } from './run/sounds.ts';
export type { RunSounds } from './run/sounds.ts';
export { readyRun, runAfter, runOf } from './run/session.ts';
export type { RunCommand, RunState } from './run/session.ts';
export { barPattern, conductedBeats } from './conduct/conductedBeats.ts';
export { handAt, PLAIN_HAND } from './conduct/hand.ts';
export type { ConductedBeat, HandPlace, HandStyle } from './conduct/hand.ts';
export {
  CLICK_CHOICES,
  FASTEST_PERCENT,
  MOST_SPANS,
  PLAIN_RUN,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
} from './run/settings.ts';
export type {
  ClickChoice,
  ClickSpan,
  Fade,
  PerformedSpan,
  RunSettings,
  SpokenChoice,
} from './run/settings.ts';

export { paperRun } from './run/paperRun.ts';
export { auditionOf } from './run/audition.ts';
export type { TempoJoin } from './run/audition.ts';
export { runMomentMaybe } from './run/runMoment.ts';
export type { BarMoment, RunMoment } from './run/runMoment.ts';

export { anchorIntoMaybe, landsTogether, type Seam } from './seam/seam.ts';
export { SEAM_KINDS, seamDetails } from './seam/details.ts';
export type { SeamDetails, SeamKind, SeamPulse } from './seam/details.ts';
export { seamWords } from './seam/words.ts';
export { oddBarMaybe } from './seam/oddBar.ts';
export { compileAfter, compilePiece, proofOf } from './compile/compile.ts';
export type { CompiledPiece } from './compile/compile.ts';
export { writtenBar, writtenIndex } from './proof/proof.ts';
export type { Proof } from './proof/proof.ts';

export {
  asOneHop,
  fullestFactor,
  fullestScale,
  hopHeight,
  meanBeatPx,
  performedGeometry,
  systemGeometry,
  systemsOf,
  systemsOfWidths,
} from './line/layout.ts';
export type { BarGeometry, Hop, LineScale, LineSystem, TrueTo } from './line/layout.ts';

export { CHECKS } from './check/checks.ts';
export type { ProvedFinding } from './check/checks.ts';
export { applyEdit } from './edit/applyEdit.ts';
export type { BarSpan, CorrectionNote, Edit, PieceHead } from './edit/edit.ts';
export { meterRun, spanName } from './edit/bars.ts';
export {
  parseHoldEntry,
  parsePickupEntry,
  parseSectionEntry,
  parseSignsEntry,
  parseTempoEntry,
} from './edit/typed.ts';
export {
  entriesAt,
  entryWords,
  nextEntryMaybe,
  playsAround,
  restingAt,
  sectionRestRuns,
  sectionSpans,
  sectionsOf,
} from './section/sections.ts';
export type { RestRun, SectionSpan } from './section/sections.ts';
export { sectionStanding } from './section/standing.ts';
export { readShorthand, SHORTHAND_LINES } from './shorthand/readShorthand.ts';
export type { ShorthandProblem, ShorthandReading } from './shorthand/readShorthand.ts';
export { barLinesOf, writeShorthand } from './shorthand/writeShorthand.ts';
export type { BarLines } from './shorthand/writeShorthand.ts';
export { UNSAID } from './shorthand/mergeBars.ts';
export type { KeptField } from './shorthand/mergeBars.ts';

export {
  DRILL_CLICKS,
  drillRunMaybe,
  MOST_CONTEXT_BARS,
  MOST_ROUNDS,
  PLAIN_DRILL,
  printedBpmMaybe,
} from './drill/drill.ts';
export type { DrillClick, DrillSettings } from './drill/drill.ts';
export {
  barOfPlaceMaybe,
  barsPlace,
  drillSpanMaybe,
  movedPlaceMaybe,
  performedOfPlaceMaybe,
  phraseAround,
  seamPlace,
} from './drill/place.ts';
export type { DrillPlace } from './drill/place.ts';
export {
  afterMark,
  drillOnRung,
  ladderGround,
  ladderOf,
  ladderProblemMaybe,
  LADDER_RULES,
  LADDER_STAGES,
  LADDER_START,
  PLAIN_LADDER,
  rungsOf,
} from './drill/ladder.ts';
export type { LadderPlan, LadderRule, LadderStage, LadderState, Mark, Rung } from './drill/ladder.ts';
export { inARow, paperSounds } from './drill/paperSounds.ts';
export type { PlacedSounds, SoundExtent, SoundSettings } from './drill/paperSounds.ts';
export { DRILL_WAYS, promptFor, WAYS } from './drill/ways.ts';
export type { DrillWay } from './drill/ways.ts';
export { MOST_CYCLE_METERS, otherGroupings, TRAINER_KINDS, trainerPiece } from './drill/trainer.ts';
export type { TrainerExercise, TrainerPiece } from './drill/trainer.ts';
export { plainPulsesFor, readsAs } from './bench/readsAs.ts';
export type { ReadsAs } from './bench/readsAs.ts';
export { isRestDue, pieceReadinessMaybe, readinessOf, runsOver } from './drill/record.ts';
export type { SeamReadiness } from './drill/record.ts';
export {
  clockLineOf,
  exchangesAfter,
  exchangeWaitMs,
  LOCKED_MS,
  isLocked,
  maySound,
  pageMsOf,
  serverMsOf,
  UNKNOWN_CLOCK,
} from './clock/clockLine.ts';
export type { ClockExchange, ClockLine } from './clock/clockLine.ts';
export { audioLineMaybe, audioSecondsOf, momentsAfter } from './clock/audioLine.ts';
export type { AudioMoment } from './clock/audioLine.ts';
export { mayDo } from './room/roles.ts';
export type { Role, RoleAction } from './room/roles.ts';
export { heardSession, HEARINGS } from './room/hearing.ts';
export type { Hearing } from './room/hearing.ts';
export { commandOf, EMPTY_ROOM, hearingOf, leadMsFor, roomAfter } from './room/room.ts';
export type { RoomAct, RoomRun, RoomState, RunSaying, SharedPiece } from './room/room.ts';
export { STAND_STATES } from './room/standState.ts';
export type { StandReport, StandState } from './room/standState.ts';
export { CODE_LENGTH, CODE_LETTERS, isCode, typedCode } from './room/joinCode.ts';
export { EXPLANATIONS, PLAYED_CHOICES } from './take/names.ts';
export type { Explanation, PlayedChoice } from './take/names.ts';
export { analysedTake } from './take/takeAnalysis.ts';
export type { Take } from './take/takeAnalysis.ts';
export { movedTake } from './take/movedTake.ts';
export { MOST_TAKE_ONSETS, MOST_TAKE_SEAMS, takeBars, takeRecordOf } from './take/takeRecord.ts';
export type { TakeBar, TakeOnset, TakeRecord } from './take/takeRecord.ts';
export { constantWords, EXPLANATION_WORDS, seamTallies, verdictWords } from './take/takeWords.ts';
export type { Remedy, SeamTally } from './take/takeWords.ts';
export { seededRandom } from './random/seededRandom.ts';
export { movedSpans, performedMoved } from './run/movedSpans.ts';
export { clickSpanSet, leftOutToggled } from './run/spans.ts';
export { seamsAhead } from './seam/ahead.ts';
export { simulatedSections, soundsWithSections } from './take/simulatedSections.ts';
export type { SectionsWish } from './take/simulatedSections.ts';
export { simulatedTake } from './take/simulatedPlayer.ts';
export type { Habit } from './take/simulatedPlayer.ts';

export { nextPlaceMaybe, planChoices, planFor } from './plan/planner.ts';
export type { PlanChoice } from './plan/planner.ts';
export { movedKeyMaybe } from './plan/placeKey.ts';
export { pieceToPlan, rehearsedSeams } from './plan/pieceToPlan.ts';
export { lastChanges, progressOf } from './plan/progress.ts';
export type { RehearsedSeam, SeamChange } from './plan/progress.ts';
export {
  MOST_PLAN_ITEMS,
  MOST_PLAN_MINUTES,
  NO_WISHES,
  NOTHING_PLAYED,
  PLAIN_WEIGHTS,
  WEIGHT_LIMITS,
} from './plan/plan.ts';
export type { PieceToPlan, Plan, PlanItem, PlanRequest, PlanWeights, PlanWishes } from './plan/plan.ts';
export { spacingOf } from './plan/spacing.ts';

export { BENCH_TOOLS, usualFields } from './bench/tools.ts';
export type {
  BenchAnswer,
  BenchChart,
  BenchField,
  BenchSend,
  BenchTool,
  HeardResult,
  TappedNote,
} from './bench/tool.ts';
export { MOST_STROKES, strokesText } from './bench/tools/meterFinder.ts';
export {
  ensembleSeamWords,
  ensembleTake,
  followingWords,
  keptSectionTakes,
  togetherOffWords,
} from './take/ensembleTake.ts';
export type { EnsembleSeam, EnsembleTake, SectionTake } from './take/ensembleTake.ts';
export { recordedStrokes } from './bench/recordedStrokes.ts';
export { OnsetDetector } from './take/onsetDetector.ts';
export { loopLatencyMaybe } from './take/loopLatency.ts';
export type { LoopLatency } from './take/loopLatency.ts';
export { silenceWords } from './take/silences.ts';
export type { TakeSilence } from './take/silences.ts';
export { capital } from './words/capital.ts';
export { howMany } from './words/howMany.ts';
export { inThousands } from './words/inThousands.ts';
