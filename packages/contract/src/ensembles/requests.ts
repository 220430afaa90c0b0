import { MAX_SECTIONS, MAX_TEXT_LENGTH, NOTE_NAMES, type NoteNames } from '@anchorbeat/core';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsNotEmpty,
  IsOptional,
  IsString,
  IsUUID,
  MaxLength,
} from 'class-validator';

/** What an ensemble is called, where it is, and which sections it has. */
export class UpdateEnsembleRequest {
  @IsString()
  @IsNotEmpty()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly name!: string;

  @IsString()
  @MaxLength(MAX_TEXT_LENGTH)
  readonly place!: string;

  @IsArray()
  @ArrayMaxSize(MAX_SECTIONS)
  @ArrayUnique()
  @IsString({ each: true })
  @IsNotEmpty({ each: true })
  @MaxLength(MAX_TEXT_LENGTH, { each: true })
  readonly sections!: readonly string[];

  /** In whose English it names notes; unsaid they stay as they are, and are the quarter's family at first. */
  @IsOptional()
  @IsIn(NOTE_NAMES)
  readonly noteNames?: NoteNames;
}

/** A further ensemble; its id is made by the client. */
export class CreateEnsembleRequest extends UpdateEnsembleRequest {
  @IsUUID()
  readonly id!: string;
}
