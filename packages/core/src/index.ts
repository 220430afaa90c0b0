export { accepted, expectValue, refused } from './problem/problem.ts';
export type { Problem, Result } from './problem/problem.ts';

export {
  add,
  commonMeasure,
  compare,
  divide,
  equal,
  fraction,
  multiply,
  ONE,
  scale,
  subtract,
  sum,
  toNumber,
  ZERO,
} from './fraction/fraction.ts';
export type { Fraction } from './fraction/fraction.ts';
export { formatFraction, formatNumber, parseFraction } from './fraction/text.ts';

export {
  noteValue,
  noteValueLength,
  noteValueOfLengthMaybe,
  NOTE_BASES,
  singleNoteMaybe,
} from './value/noteValue.ts';
export type { NoteBase, NoteValue, Tuplet } from './value/noteValue.ts';
export { formatNoteValue, noteLettersMaybe, parseNoteValue } from './value/text.ts';

export { meterLength, partCount } from './meter/meter.ts';
export type { Meter, MeterPart } from './meter/meter.ts';
export { formatMeter, isSameMeter, meterSign, parseMeter } from './meter/text.ts';

export {
  bpmOf,
  practiceRate,
  rateAfterEquivalence,
  secondsOf,
  statedRate,
  TEMPO_RETURNS,
} from './tempo/tempoMark.ts';
export type {
  Equivalence,
  Ramp,
  RampTarget,
  StatedTempo,
  TempoMark,
  TempoReturn,
} from './tempo/tempoMark.ts';
export { equivalencesBetween, noteMilliseconds, tempoAfter, tempoBefore } from './tempo/triangle.ts';
export type { EquivalenceBetween } from './tempo/triangle.ts';
export { tappedTempoMaybe } from './tempo/tapped.ts';
export type { TappedTempo } from './tempo/tapped.ts';
export { RAMP_SHAPES } from './tempo/ramp.ts';
export { fitRampMaybe } from './tempo/rampFit.ts';
export type { RampFit, TempoPoint } from './tempo/rampFit.ts';
export { simplestBetween } from './fraction/simplest.ts';
export type { RampCurve, RampShape } from './tempo/ramp.ts';
export { lawRate, rateAtBar, tempoMapOf } from './tempo/tempoMap.ts';
export type { RateChange, TempoLaw, TempoMap } from './tempo/tempoMap.ts';
export {
  formatEquivalence,
  formatRamp,
  formatRampTarget,
  formatStatedTempo,
  parseEquivalence,
  parseRamp,
  parseStatedTempo,
} from './tempo/text.ts';

export {
  barLength,
  barStartInFullBar,
  MAX_BARS,
  MAX_CORRECTIONS,
  MAX_REPEAT_TIMES,
  MAX_SECTIONS,
  MAX_TEXT_LENGTH,
  ofOneShape,
  SECTION_ACTS,
} from './piece/piece.ts';
export type {
  Answer,
  Bar,
  Hold,
  HoldLength,
  Jump,
  LoggedCorrection,
  Navigation,
  PartialBar,
  Piece,
  PulseChoice,
  RepeatTimes,
  SectionMark,
} from './piece/piece.ts';
export { barLabels, barName } from './piece/labels.ts';
export { PIECE_FORMAT, PIECE_FORMAT_VERSION } from './document/document.ts';
export { writePiece } from './document/writePiece.ts';
export type { BarDocument, PieceDocument, TempoMarkDocument } from './document/document.ts';
export { readPiece } from './document/readPiece.ts';
export type { PieceReading } from './document/readPiece.ts';
export { turnEquivalences } from './piece/turnEquivalences.ts';
export { differencesBetween } from './difference/difference.ts';
export type { Difference } from './difference/difference.ts';

export { barOf, MAX_ROUTE_RATIO, routeOf } from './route/route.ts';
export { passWords, routeWords } from './route/words.ts';
export { readRepeats } from './route/repeats.ts';
export type { Ending, Repeat, RepeatReading } from './route/repeats.ts';
export type { Route } from './route/route.ts';
export { pulseOf } from './pulse/pulse.ts';
export type { PulseBeat, Stress } from './pulse/pulse.ts';
export { CONDUCTABLE_BPM, pulseAdvice } from './pulse/advice.ts';
export type { PulseAdvice, PulseOption } from './pulse/advice.ts';
export { beatNumbers, pulseChoiceProblemMaybe } from './pulse/choice.ts';
export { formatPulseChoice, inWords, parsePulseChoice } from './pulse/text.ts';
export { meterForLengthMaybe, missingFrom, rhythmLength, rhythmOnsets } from './rhythm/rhythm.ts';
export type { Rhythm, RhythmNote } from './rhythm/rhythm.ts';
export { placedNotes, rhythmFill } from './rhythm/fill.ts';
export type { PlacedNote, RhythmFill } from './rhythm/fill.ts';
export { formatRhythm, parseRhythm } from './rhythm/text.ts';
export {
  formatEnding,
  formatHoldLength,
  formatJump,
  parseEnding,
  parseHoldLength,
  parseJump,
} from './piece/barText.ts';
export { countBar, countRest, slashPositions } from './count/countWord.ts';
export type { CountSchool, CountWord } from './count/countWord.ts';
export { COUNT_SCHOOLS, countSchoolMaybe } from './count/schools.ts';
export { MAX_COUNT_OFF_BARS, PLAIN_COUNT_OFF } from './countoff/settings.ts';
export type { CountOffSettings } from './countoff/settings.ts';
export { COUNT_OFF_STYLES } from './countoff/styles.ts';
export { formatPitch, parsePitch } from './countoff/pitch.ts';
export { countOffFor } from './countoff/countOff.ts';
export type { CountOff, CountOffBeat } from './countoff/countOff.ts';

export { timelineOf } from './timeline/timeline.ts';
export type { PerformedHold, PerformedPosition, TempoSegment, Timeline } from './timeline/timeline.ts';
export {
  barStart,
  firstAtOrAfter,
  lastAtOrBefore,
  momentAt,
  performedCount,
  pieceSeconds,
  rateAt,
  secondsAt,
} from './timeline/query.ts';
export type { Moment } from './timeline/query.ts';
export { isSameMoment, SAME_MOMENT_SECONDS } from './timeline/sameMoment.ts';

export { CLICK_KINDS, clickKind, clickPlanOf } from './click/clickPlan.ts';
export type { ClickKind, ClickPlan } from './click/clickPlan.ts';
export { changedRun, cuedRunMaybe, endedRun, goneOnRunMaybe, runFrom } from './run/planRun.ts';
export { stretchAtMaybe } from './run/runPlan.ts';
export type { RunCall, RunClick, RunPlan, RunStretch } from './run/runPlan.ts';
export { nextBoundaryMaybe } from './run/boundary.ts';
export type { RunBoundary } from './run/boundary.ts';
export { allClicks, clicksIn } from './run/clicksIn.ts';
export type { RunWindow } from './run/clicksIn.ts';
export { beatsIn } from './run/beatsIn.ts';
export { heardBars } from './run/heard.ts';
export type { HeardBars } from './run/heard.ts';
export type { RunBeat } from './run/beatsIn.ts';
export { listedSounds, soundsOf } from './run/sounds.ts';
export type { RunSounds } from './run/sounds.ts';
export { readyRun, runAfter, runOf } from './run/session.ts';
export type { NextBoundary, RunCommand, RunSession, RunState } from './run/session.ts';
export { openRepeats } from './run/openRepeats.ts';
export type { OpenRepeat } from './run/openRepeats.ts';
export { barPattern, conductedBeats } from './conduct/conductedBeats.ts';
export { handAt, PLAIN_HAND } from './conduct/hand.ts';
export type { ConductedBeat, HandPlace, HandStyle } from './conduct/hand.ts';
export { beatPattern } from './conduct/pattern.ts';
export type { BeatPoint } from './conduct/pattern.ts';
export {
  CLICK_CHOICES,
  FASTEST_PERCENT,
  PLAIN_RUN,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
} from './run/settings.ts';
export type { ClickChoice, Fade, PerformedSpan, RunSettings, SpokenChoice } from './run/settings.ts';

export { barCuesIn, paperRun } from './run/paperRun.ts';
export type { RunCue } from './run/paperRun.ts';
export { auditionOf } from './run/audition.ts';
export type { TempoJoin } from './run/audition.ts';
export { barMomentAt, runMomentMaybe } from './run/runMoment.ts';
export type { BarMoment, CountOffMoment, RunMoment } from './run/runMoment.ts';

export { nearestCarry } from './seam/carry.ts';
export type { Carry, NearestCarry } from './seam/carry.ts';
export { seamsOf } from './seam/seam.ts';
export type { Seam, SeamChange } from './seam/seam.ts';
export { SEAM_KINDS, seamDetails } from './seam/details.ts';
export type { DifficultyShare, SeamDetails, SeamKind, SeamPulse, SeamTrap } from './seam/details.ts';
export { DIFFICULTY_PARTS, DIFFICULTY_WEIGHTS } from './seam/difficulty.ts';
export type { Difficulty, DifficultyPart } from './seam/difficulty.ts';
export { seamWords } from './seam/words.ts';
export { oddBarMaybe } from './seam/oddBar.ts';
export type { OddBar } from './seam/oddBar.ts';

export { compileAfter, compilePiece } from './compile/compile.ts';
export type { CompiledPiece } from './compile/compile.ts';
export { proofOf, writtenBar, writtenIndex } from './compile/proof.ts';
export type { Proof } from './compile/proof.ts';

export { asOneHop, hopHeight, performedGeometry, systemGeometry, systemsOf } from './line/layout.ts';
export type { BarGeometry, Hop, LineScale, LineSystem, TrueTo } from './line/layout.ts';

export { CHECKS } from './check/checks.ts';
export type { ProvedFinding } from './check/checks.ts';
export type { Check, Correction, Finding, Severity } from './check/check.ts';

export { applyEdit } from './edit/applyEdit.ts';
export type { BarSpan, CorrectionNote, Edit, Edited, PieceHead, RouteSigns } from './edit/edit.ts';
export { signWords } from './edit/setSigns.ts';
export { meterRun, spanName } from './edit/bars.ts';
export {
  parseHoldEntry,
  parsePickupEntry,
  parseSectionEntry,
  parseSignsEntry,
  parseTempoEntry,
} from './edit/typed.ts';
export type { SectionEntry } from './edit/typed.ts';

export {
  entriesAt,
  entryWords,
  isRestBar,
  nextEntryMaybe,
  restingAt,
  restRunMaybe,
  restRuns,
  sectionSpans,
  sectionsOf,
} from './section/sections.ts';
export type { NextEntry, RestRun, SectionSpan } from './section/sections.ts';
export { alignBars } from './difference/alignBars.ts';
export type { Alignment } from './difference/alignBars.ts';

export { readShorthand, SHORTHAND_LINES } from './shorthand/readShorthand.ts';
export type { ShorthandProblem, ShorthandReading } from './shorthand/readShorthand.ts';
export { barLinesOf, writeShorthand } from './shorthand/writeShorthand.ts';
export type { BarLines } from './shorthand/writeShorthand.ts';
export { mergeBars, UNSAID } from './shorthand/mergeBars.ts';
export type { KeptField } from './shorthand/mergeBars.ts';

export {
  DRILL_CLICKS,
  drillRunMaybe,
  MOST_CONTEXT_BARS,
  MOST_ROUNDS,
  PLAIN_DRILL,
  printedBpmMaybe,
} from './drill/drill.ts';
export type { DrillClick, DrillRun, DrillSettings } from './drill/drill.ts';
export {
  barOfPlaceMaybe,
  barsPlace,
  drillSpanMaybe,
  performedOfPlaceMaybe,
  phraseAround,
  seamPlace,
} from './drill/place.ts';
export type { DrillContext, DrillPlace } from './drill/place.ts';
export {
  afterMark,
  drillOnRung,
  LADDER_RULES,
  LADDER_STAGES,
  LADDER_START,
  PLAIN_LADDER,
  rungsOf,
} from './drill/ladder.ts';
export type {
  LadderGround,
  LadderPlan,
  LadderRule,
  LadderStage,
  LadderState,
  LadderStep,
  Mark,
  Rung,
} from './drill/ladder.ts';
export { DRILL_WAYS, promptFor, WAYS } from './drill/ways.ts';
export type { DrillWay } from './drill/ways.ts';
export { landsAfterBars, leastCommonLength } from './drill/grid.ts';
export { leadHands } from './drill/leadHand.ts';
export type { LeadHands } from './drill/leadHand.ts';
export {
  fullMeterOf,
  MOST_CYCLE_METERS,
  otherGroupings,
  TRAINER_KINDS,
  trainerPiece,
} from './drill/trainer.ts';
export type { TrainerExercise, TrainerGround, TrainerPiece } from './drill/trainer.ts';
export { plainPulsesFor, readsAs } from './drill/readsAs.ts';
export type { ReadsAs, SoundingBar } from './drill/readsAs.ts';
export { isRestDue, pieceReadinessMaybe, readinessOf, runsOver, seamRecord } from './drill/record.ts';
export type { Drilled, RunResult, SeamReadiness, SeamRecord } from './drill/record.ts';
