import { MAX_SECTIONS, MAX_TEXT_LENGTH } from '@anchorbeat/core';
import { ArrayMaxSize, ArrayUnique, IsArray, IsNotEmpty, IsString, IsUUID, MaxLength } from 'class-validator';

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
}

/** A further ensemble; its id is made by the client. */
export class CreateEnsembleRequest extends UpdateEnsembleRequest {
  @IsUUID()
  readonly id!: string;
}
