import 'reflect-metadata';
import {
  MAX_SECTIONS,
  MAX_TEXT_LENGTH,
  MOST_PLAN_ITEMS,
  MOST_PLAN_MINUTES,
  WEIGHT_LIMITS,
  type PlanWeights,
} from '@anchorbeat/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';

/** A day and a time on the clock of the place, without an offset: a rehearsal at seven is at seven when the clocks have changed. */
const LOCAL_TIME = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])T([01]\d|2[0-3]):[0-5]\d$/;
const MOST_PIECES = 200;
export const MOST_KEY_LENGTH = 100;
const MOST_NOTE_LENGTH = 4000;
export const MOST_PAUSE_SECONDS = 3600;
/** Within what a goal or a practice tempo may be set, of the printed tempo. */
export const LEAST_GOAL_PERCENT = 25;
export const MOST_GOAL_PERCENT = 200;

/** How long an item is wanted to take. */
class ItemMinutesRequest {
  @IsString()
  @MaxLength(MOST_KEY_LENGTH)
  readonly key!: string;

  @IsInt()
  @Min(1)
  @Max(MOST_PLAN_MINUTES)
  readonly minutes!: number;
}

/** What the director wants otherwise than the program proposes; items by their keys. */
class PlanWishesRequest {
  @IsArray()
  @ArrayMaxSize(MOST_PLAN_ITEMS)
  @ArrayUnique()
  @IsString({ each: true })
  @MaxLength(MOST_KEY_LENGTH, { each: true })
  readonly pinned!: readonly string[];

  @IsArray()
  @ArrayMaxSize(MOST_PLAN_ITEMS)
  @ArrayUnique()
  @IsString({ each: true })
  @MaxLength(MOST_KEY_LENGTH, { each: true })
  readonly skipped!: readonly string[];

  @IsArray()
  @ArrayMaxSize(MOST_PLAN_ITEMS)
  @ArrayUnique()
  @IsString({ each: true })
  @MaxLength(MOST_KEY_LENGTH, { each: true })
  readonly order!: readonly string[];

  @IsArray()
  @ArrayMaxSize(MOST_PLAN_ITEMS)
  @ValidateNested({ each: true })
  @Type(() => ItemMinutesRequest)
  readonly minutes!: readonly ItemMinutesRequest[];
}

/** A tempo of a piece, of the printed one. */
function IsGoalPercent(): PropertyDecorator {
  return (target, property) => {
    IsInt()(target, property);
    Min(LEAST_GOAL_PERCENT)(target, property);
    Max(MOST_GOAL_PERCENT)(target, property);
  };
}

/** How fast a piece of the programme is to be: what is not named is as for the whole date. */
class PieceTempoRequest {
  @IsUUID()
  readonly pieceId!: string;

  /** In the concert. */
  @IsOptional()
  @IsGoalPercent()
  readonly goalPercent?: number | null;

  /** In this rehearsal. */
  @IsOptional()
  @IsGoalPercent()
  readonly practicePercent?: number | null;
}

/** A weight within its limits. */
function IsWeight(name: keyof PlanWeights): PropertyDecorator {
  const { least, most } = WEIGHT_LIMITS[name];
  return (target, property) => {
    IsNumber({ allowNaN: false, allowInfinity: false })(target, property);
    Min(least)(target, property);
    Max(most)(target, property);
  };
}

/** What weighs how much in the plans from a date on. */
class PlanWeightsRequest implements PlanWeights {
  @IsWeight('mostMinutesAPlace')
  readonly mostMinutesAPlace!: number;

  @IsWeight('restEveryMinutes')
  readonly restEveryMinutes!: number;

  @IsWeight('restMinutes')
  readonly restMinutes!: number;

  @IsWeight('warmUpMinutes')
  readonly warmUpMinutes!: number;

  @IsWeight('wholeShare')
  readonly wholeShare!: number;

  @IsWeight('difficulty')
  readonly difficulty!: number;
}

/** An item that was worked on, and how long that took. */
class DoneItemRequest {
  @IsString()
  @MaxLength(MOST_KEY_LENGTH)
  readonly key!: string;

  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly title!: string;

  @IsInt()
  @Min(0)
  @Max(MOST_PLAN_MINUTES)
  readonly planned!: number;

  @IsNumber({ allowNaN: false, allowInfinity: false })
  @Min(0)
  @Max(86_400)
  readonly seconds!: number;
}

/** A rehearsal or a concert. Its id is made by the client; keeping it again changes it. */
export class SaveDateRequest {
  @IsIn(['rehearsal', 'concert'])
  readonly kind!: 'rehearsal' | 'concert';

  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly title!: string;

  @Matches(LOCAL_TIME, { message: 'at is a day and a time of the place such as 2026-12-01T19:30' })
  readonly at!: string;

  @IsInt()
  @Min(0)
  @Max(MOST_PLAN_MINUTES)
  readonly minutes!: number;

  /** Sections that are not there. */
  @IsArray()
  @ArrayMaxSize(MAX_SECTIONS)
  @ArrayUnique()
  @IsString({ each: true })
  @MaxLength(MAX_TEXT_LENGTH, { each: true })
  readonly absent!: readonly string[];

  /** Its programme, in order; empty for every piece on the shelf. */
  @IsArray()
  @ArrayMaxSize(MOST_PIECES)
  @ArrayUnique()
  @IsUUID(undefined, { each: true })
  readonly pieceIds!: readonly string[];

  /** Of the printed tempo, for what is on its programme. */
  @IsGoalPercent()
  readonly goalPercent!: number;

  /** Pieces that are to be faster or slower than the rest. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_PIECES)
  @ArrayUnique((tempo: PieceTempoRequest) => tempo.pieceId)
  @ValidateNested({ each: true })
  @Type(() => PieceTempoRequest)
  readonly tempi?: readonly PieceTempoRequest[] | null;

  @ValidateNested()
  @Type(() => PlanWishesRequest)
  readonly wishes!: PlanWishesRequest;

  /** From this date on; without them those of the date before hold. */
  @IsOptional()
  @ValidateNested()
  @Type(() => PlanWeightsRequest)
  readonly weights?: PlanWeightsRequest | null;

  /** Between the pieces of its programme, played in order; without it each begins by the key. */
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(MOST_PAUSE_SECONDS)
  readonly pauseSeconds?: number | null;

  /** What was done of the plan so far, in order. */
  @IsArray()
  @ArrayMaxSize(MOST_PLAN_ITEMS)
  @ValidateNested({ each: true })
  @Type(() => DoneItemRequest)
  readonly done!: readonly DoneItemRequest[];

  @IsString()
  @MaxLength(MOST_NOTE_LENGTH)
  readonly note!: string;
}

/** A date as it is to be, with what whoever changes it saw before: what others have changed since then stays. */
export class KeepDateRequest extends SaveDateRequest {
  @IsOptional()
  @ValidateNested()
  @Type(() => SaveDateRequest)
  readonly base?: SaveDateRequest | null;
}
