import 'reflect-metadata';
import {
  CLICK_CHOICES,
  FASTEST_PERCENT,
  HEARINGS,
  MAX_BARS,
  MAX_SECTIONS,
  MAX_TEXT_LENGTH,
  MOST_TAKE_ONSETS,
  MOST_ROUNDS,
  MOST_SPANS,
  PLAYED_CHOICES,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
  STAND_STATES,
  type ClickChoice,
  type Fade,
  type Hearing,
  type PerformedSpan,
  type PlayedChoice,
  type RunSettings,
  type SpokenChoice,
  type SharedPiece,
  type StandReport,
  type StandState,
} from '@anchorbeat/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNotEmpty,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { OrNull } from '../orNull.ts';

/** Bars as performed, with every repeat. */
const MOST_PERFORMED = 100 * MAX_BARS;
/** Words to a stand are no longer; of lines to do at home there are no more. */
export const MOST_MESSAGE = 160;
export const MOST_HANDED_LINES = 40;

/** Joins a rehearsal by its code; without a section it only asks which there are. */
export class JoinRequest {
  @IsString()
  @MaxLength(40)
  readonly code!: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly section?: string;

  /** Whose stand it is, for the director's eyes; may be empty. */
  @IsOptional()
  @IsString()
  @MaxLength(80)
  readonly name?: string;
}

class SpanMessage implements PerformedSpan {
  @IsInt()
  @Min(0)
  @Max(MOST_PERFORMED)
  readonly from!: number;

  @IsInt()
  @Min(1)
  @Max(MOST_PERFORMED)
  readonly to!: number;
}

class FadeMessage {
  @IsIn(['bars', 'odd bars', 'fewer'])
  readonly kind!: Fade['kind'];

  @ValidateIf(({ kind }: FadeMessage) => kind === 'bars')
  @IsInt()
  @Min(1)
  @Max(99)
  readonly on?: number;

  @ValidateIf(({ kind }: FadeMessage) => kind === 'bars')
  @IsInt()
  @Min(1)
  @Max(99)
  readonly off?: number;

  @ValidateIf(({ kind }: FadeMessage) => kind === 'fewer')
  @IsInt()
  @Min(1)
  @Max(99)
  readonly bars?: number;
}

class ClickSpanMessage extends SpanMessage {
  @IsIn(CLICK_CHOICES)
  readonly clickOn!: ClickChoice;
}

/** How a run is wanted; in a change only what changes. */
export class RunSettingsMessage {
  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(SLOWEST_PERCENT)
  @Max(FASTEST_PERCENT)
  readonly percent?: number;

  @IsOptional()
  @IsIn(CLICK_CHOICES)
  readonly clickOn?: ClickChoice;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_SPANS)
  @ValidateNested({ each: true })
  @Type(() => ClickSpanMessage)
  readonly clickSpans?: readonly ClickSpanMessage[];

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_SPANS)
  @ValidateNested({ each: true })
  @Type(() => SpanMessage)
  readonly leftOut?: readonly SpanMessage[];

  @IsOptional()
  @OrNull()
  @ValidateNested()
  @Type(() => FadeMessage)
  readonly fade?: FadeMessage | null;

  @IsOptional()
  @OrNull()
  @ValidateNested()
  @Type(() => SpanMessage)
  readonly loop?: SpanMessage | null;

  @IsOptional()
  @OrNull()
  @IsInt()
  @Min(1)
  @Max(64)
  readonly overlay?: number | null;

  @IsOptional()
  @IsIn(SPOKEN_CHOICES)
  readonly spoken?: SpokenChoice;

  @IsOptional()
  @IsBoolean()
  readonly countsEachRound?: boolean;

  @IsOptional()
  @OrNull()
  @IsInt()
  @Min(1)
  @Max(MOST_ROUNDS)
  readonly rounds?: number | null;

  @IsOptional()
  @OrNull()
  @IsInt()
  @Min(0)
  @Max(MOST_PERFORMED)
  readonly seamAt?: number | null;

  @IsOptional()
  @IsBoolean()
  readonly soundsRhythm?: boolean;
}

/** The message as settings; unknown kinds of fade have been refused before. */
export function settingsIn(message: RunSettingsMessage): Partial<RunSettings> {
  return JSON.parse(JSON.stringify(message)) as Partial<RunSettings>;
}

/** The piece the room works on, in the revision every device is to hold. */
export class OpenPieceMessage {
  @IsUUID()
  readonly pieceId!: string;

  @IsInt()
  @Min(1)
  readonly revision!: number;
}

/** Counts off a performed bar, everywhere at once. */
export class StartRunMessage extends OpenPieceMessage {
  @IsUUID()
  readonly runId!: string;

  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly title!: string;

  @ValidateNested()
  @Type(() => RunSettingsMessage)
  readonly settings!: RunSettingsMessage;

  @IsInt()
  @Min(0)
  @Max(MOST_PERFORMED)
  readonly performed!: number;

  /** What is called before the count-off; left out, nothing is. */
  @IsOptional()
  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly call?: string | null;
}

/** Something said to the run that goes on. */
export class SayMessage {
  @IsUUID()
  readonly runId!: string;

  /** How many commands of the run were known when this was said. */
  @IsInt()
  @Min(0)
  @Max(100_000)
  readonly known!: number;

  @IsIn(['change', 'cue', 'goOn', 'stopAtBarEnd', 'stop'])
  readonly kind!: 'change' | 'cue' | 'goOn' | 'stopAtBarEnd' | 'stop';

  @IsOptional()
  @ValidateNested()
  @Type(() => RunSettingsMessage)
  readonly settings?: RunSettingsMessage;

  @IsOptional()
  @IsIn(['beat', 'bar'])
  readonly every?: 'beat' | 'bar';
}

/** What of the room's settings changes; whatever is not named stays. */
export class RoomSettingsMessage {
  @IsOptional()
  @IsBoolean()
  readonly isMuted?: boolean;

  @IsOptional()
  @OrNull()
  @IsArray()
  @ArrayMaxSize(MAX_SECTIONS)
  @ArrayUnique()
  @IsString({ each: true })
  @MaxLength(MAX_TEXT_LENGTH, { each: true })
  readonly alone?: readonly string[] | null;

  @IsOptional()
  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly next?: string;

  @IsOptional()
  @IsBoolean()
  readonly coDirectorsLead?: boolean;

  @IsOptional()
  @OrNull()
  @IsIn(PLAYED_CHOICES)
  readonly playsAlong?: PlayedChoice | null;
}

/** What a stand played along with the room's run: onsets in seconds of the run. */
export class TakenMessage {
  @IsUUID()
  readonly runId!: string;

  @IsArray()
  @ArrayMaxSize(MOST_TAKE_ONSETS)
  @IsNumber({ allowNaN: false, allowInfinity: false }, { each: true })
  @Min(-60, { each: true })
  @Max(86_400, { each: true })
  readonly onsets!: readonly number[];
}

/** What a section hears from now on. */
export class HearingMessage {
  @IsString()
  @IsNotEmpty()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly section!: string;

  @IsIn(HEARINGS)
  readonly hearing!: Hearing;
}

/** Words for the stands of some sections. */
export class TellMessage {
  @IsArray()
  @ArrayMaxSize(MAX_SECTIONS)
  @ArrayUnique()
  @IsString({ each: true })
  @MaxLength(MAX_TEXT_LENGTH, { each: true })
  readonly sections!: readonly string[];

  @IsString()
  @MaxLength(MOST_MESSAGE)
  readonly words!: string;
}

/** What a section does at home, for its stands to keep. */
export class HandOutMessage {
  @IsString()
  @IsNotEmpty()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly section!: string;

  @IsArray()
  @ArrayMaxSize(MOST_HANDED_LINES)
  @IsString({ each: true })
  @MaxLength(MOST_MESSAGE, { each: true })
  readonly lines!: readonly string[];
}

class SharedPieceMessage extends OpenPieceMessage implements SharedPiece {
  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly title!: string;
}

const MOST_SHARED = 12;

/** The pieces that stands may take home. */
export class SharePiecesMessage {
  @IsArray()
  @ArrayMaxSize(MOST_SHARED)
  @ValidateNested({ each: true })
  @Type(() => SharedPieceMessage)
  readonly pieces!: readonly SharedPieceMessage[];
}

/** What a stand says of itself. */
export class StandReportMessage implements StandReport {
  @IsIn(STAND_STATES)
  readonly state!: StandState;

  @OrNull()
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(0)
  @Max(100_000)
  readonly withinMs!: number | null;

  @OrNull()
  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(0)
  @Max(100_000)
  readonly slowRoundTripMs!: number | null;

  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(-2000)
  @Max(2000)
  readonly latencyMs!: number;

  @IsBoolean()
  readonly isSeen!: boolean;
}

/** Changes the section or the name of a stand. */
export class UpdateStandRequest {
  @IsString()
  @IsNotEmpty()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly section!: string;

  @IsString()
  @MaxLength(80)
  readonly name!: string;
}
