import 'reflect-metadata';
import {
  DRILL_CLICKS,
  DRILL_WAYS,
  EXPLANATIONS,
  FASTEST_PERCENT,
  LADDER_RULES,
  LADDER_STAGES,
  MAX_BARS,
  MAX_SECTIONS,
  MAX_TEXT_LENGTH,
  MOST_CONTEXT_BARS,
  MOST_ROUNDS,
  MOST_TAKE_ONSETS,
  MOST_TAKE_SEAMS,
  PLAYED_CHOICES,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
  type DrillClick,
  type DrillWay,
  type Explanation,
  type LadderRule,
  type LadderStage,
  type Mark,
  type PlayedChoice,
  type SpokenChoice,
} from '@anchorbeat/core';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO8601,
  IsNotEmpty,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import { OrNull } from '../orNull.ts';

/** A day and a time of it, with its offset: not the weeks and days of a year that ISO 8601 has besides. */
const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,9})?)?(Z|[+-]\d{2}:?\d{2})$/;

const FINITE = { allowNaN: false, allowInfinity: false };
/** Repeats multiply the bars of a piece by no more than a hundred. */
const MOST_PERFORMED = 100 * MAX_BARS;

const IsPercent = () => (target: object, property: string) => {
  IsNumber({ allowNaN: false, allowInfinity: false })(target, property);
  Min(SLOWEST_PERCENT)(target, property);
  Max(FASTEST_PERCENT)(target, property);
};

/** Where a drill or a run is: the seam before a written bar, or a span of bars. */
class PlacedRequest {
  /** The revision of the piece whose bars are counted here; left out or null where what was run was not saved yet. */
  @IsOptional()
  @IsInt()
  @Min(1)
  @Max(Number.MAX_SAFE_INTEGER)
  readonly revision?: number | null;

  @IsIn(['seam', 'bars'])
  readonly placeKind!: 'seam' | 'bars';

  /** Index of the written bar, from 0. */
  @IsInt()
  @Min(0)
  @Max(MAX_BARS - 1)
  readonly barIndex!: number;

  /** Its printed number, by which it is found again where its revision is not known. */
  @OrNull()
  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly label!: string | null;

  /** How many bars a span has; 0 for a seam. */
  @IsInt()
  @Min(0)
  @Max(MAX_BARS)
  readonly bars!: number;
}

/** Keeps a drill with a piece. Its id is made by the client; keeping it again changes it. */
export class SaveDrillRequest extends PlacedRequest {
  @IsString()
  @IsNotEmpty()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly name!: string;

  @IsInt()
  @Min(0)
  @Max(MOST_CONTEXT_BARS)
  readonly contextBefore!: number;

  @IsInt()
  @Min(0)
  @Max(MOST_CONTEXT_BARS)
  readonly contextAfter!: number;

  @IsPercent()
  readonly percent!: number;

  @IsIn(DRILL_CLICKS)
  readonly click!: DrillClick;

  @IsIn(SPOKEN_CHOICES)
  readonly spoken!: SpokenChoice;

  @OrNull()
  @IsInt()
  @Min(1)
  @Max(MOST_ROUNDS)
  readonly rounds!: number | null;

  @IsIn(DRILL_WAYS)
  readonly way!: DrillWay;

  /** What its ladder climbs by; an empty list is a drill without one. */
  @IsArray()
  @ArrayUnique()
  @IsIn(LADDER_STAGES, { each: true })
  readonly ladderStages!: readonly LadderStage[];

  @IsPercent()
  readonly startPercent!: number;

  @IsPercent()
  readonly goalPercent!: number;

  @IsIn(['percent', 'bpm'])
  readonly stepBy!: 'percent' | 'bpm';

  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(0.5)
  @Max(100)
  readonly stepSize!: number;

  @IsIn(LADDER_RULES)
  readonly ladderRule!: LadderRule;
}

/** One onset of a take: where it was asked for, and how late it came. */
class TakeOnsetRequest {
  @IsInt()
  @Min(0)
  @Max(MOST_PERFORMED)
  readonly performed!: number;

  @IsNumber(FINITE)
  @Min(0)
  @Max(1000)
  readonly atWholes!: number;

  @OrNull()
  @IsNumber(FINITE)
  @Min(-60_000)
  @Max(60_000)
  readonly offMs!: number | null;
}

/** What was done at a seam of a take. */
class TakeSeamRequest {
  @IsInt()
  @Min(0)
  @Max(MOST_PERFORMED)
  readonly performed!: number;

  @IsInt()
  @Min(0)
  @Max(MAX_BARS - 1)
  readonly barIndex!: number;

  @IsInt()
  @Min(0)
  @Max(MOST_TAKE_ONSETS)
  readonly atOnset!: number;

  @IsIn(EXPLANATIONS)
  readonly explanation!: Explanation;

  @IsNumber(FINITE)
  @Min(0)
  @Max(1)
  readonly probability!: number;

  @IsNumber(FINITE)
  @Min(-60_000)
  @Max(60_000)
  readonly effectMs!: number;

  @OrNull()
  @IsIn(EXPLANATIONS)
  readonly second!: Explanation | null;

  @IsNumber(FINITE)
  @Min(0)
  @Max(1)
  readonly secondProbability!: number;
}

/** A silence of the click in a take, and how the player came out of it. */
class TakeSilenceRequest {
  @IsInt()
  @Min(0)
  @Max(MOST_PERFORMED)
  readonly performed!: number;

  @IsInt()
  @Min(0)
  @Max(MOST_PERFORMED)
  readonly backAt!: number;

  @IsNumber(FINITE)
  @Min(0)
  @Max(86_400)
  readonly seconds!: number;

  @IsNumber(FINITE)
  @Min(-60_000)
  @Max(60_000)
  readonly offMs!: number;

  @IsBoolean()
  readonly isHeld!: boolean;
}

/** What was measured while somebody played along: times, never sound. */
export class TakeRequest {
  @IsIn(PLAYED_CHOICES)
  readonly play!: PlayedChoice;

  @IsNumber(FINITE)
  @Min(-10_000)
  @Max(10_000)
  readonly constantMs!: number;

  @IsNumber(FINITE)
  @Min(0)
  @Max(10_000)
  readonly spreadMs!: number;

  @IsNumber(FINITE)
  @Min(-10_000)
  @Max(10_000)
  readonly driftMsPerBar!: number;

  @IsInt()
  @Min(0)
  @Max(100_000)
  readonly extra!: number;

  @IsArray()
  @ArrayMaxSize(MOST_TAKE_ONSETS)
  @ValidateNested({ each: true })
  @Type(() => TakeOnsetRequest)
  readonly onsets!: readonly TakeOnsetRequest[];

  @IsArray()
  @ArrayMaxSize(MOST_TAKE_SEAMS)
  @ValidateNested({ each: true })
  @Type(() => TakeSeamRequest)
  readonly seams!: readonly TakeSeamRequest[];

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_TAKE_SEAMS)
  @ValidateNested({ each: true })
  @Type(() => TakeSilenceRequest)
  readonly silences?: readonly TakeSilenceRequest[];
}

/** What a section played along at its stand. */
export class SectionTakeRequest {
  /** A section; where it has several stands, with the stand's own name. */
  @Length(1, 2 * MAX_TEXT_LENGTH + 3)
  readonly section!: string;

  @ValidateNested()
  @Type(() => TakeRequest)
  readonly take!: TakeRequest;
}

/** Logs one run of a place. Its id is made by the client; logging it again changes its mark or note. */
export class LogRunRequest extends PlacedRequest {
  @OrNull()
  @IsUUID()
  readonly drillId!: string | null;

  @IsIn(DRILL_WAYS)
  readonly way!: DrillWay;

  @IsPercent()
  readonly percent!: number;

  @IsPercent()
  readonly goalPercent!: number;

  /** Beats a minute it was run at. */
  @OrNull()
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(1)
  @Max(2000)
  readonly bpm!: number | null;

  @OrNull()
  @IsIn(['good', 'again'])
  readonly mark!: Mark | null;

  /** Who played; an empty list is everybody. Sections, never persons. */
  @IsArray()
  @ArrayMaxSize(MAX_SECTIONS)
  @ArrayUnique()
  @IsString({ each: true })
  @MaxLength(MAX_TEXT_LENGTH, { each: true })
  readonly sections!: readonly string[];

  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly note!: string;

  /** How the place went before and after it was done off the instruments, 1 to 5. */
  @OrNull()
  @IsInt()
  @Min(1)
  @Max(5)
  readonly ratingBefore!: number | null;

  @OrNull()
  @IsInt()
  @Min(1)
  @Max(5)
  readonly ratingAfter!: number | null;

  /** ISO 8601 with its offset. */
  @Matches(INSTANT, { message: 'startedAt is a moment such as 2026-03-28T19:30:00.000Z' })
  @IsISO8601({ strict: true, strictSeparator: true })
  @MaxLength(40)
  readonly startedAt!: string;

  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(0)
  @Max(86_400)
  readonly lengthSeconds!: number;

  /** What was measured of it; left out or null where nobody played along. */
  @IsOptional()
  @ValidateNested()
  @Type(() => TakeRequest)
  readonly take?: TakeRequest | null;

  /** The same of sections that played along at their stands. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MAX_SECTIONS)
  @ValidateNested({ each: true })
  @Type(() => SectionTakeRequest)
  readonly sectionTakes?: readonly SectionTakeRequest[];
}
