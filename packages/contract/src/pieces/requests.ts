import type { PieceDocument } from '@anchorbeat/core';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { IsPiece } from './isPiece.ts';

const MAX_REVISION_EDITS = 500;
const MAX_EDIT_LENGTH = 500;

/** Makes a new piece in an ensemble. The id is made by the client, so that offline work merges. */
export class CreatePieceRequest {
  @IsUUID()
  readonly id!: string;

  @IsUUID()
  readonly ensembleId!: string;

  @IsPiece()
  readonly piece!: PieceDocument;
}

/** Puts a piece at a place of the shelf, or sets it aside. */
export class ShelvePieceRequest {
  /** From 0; past the end is the end. */
  @IsInt()
  @Min(0)
  @Max(100_000)
  readonly place!: number;

  @IsBoolean()
  readonly isSetAside!: boolean;
}

/** Saves a piece as the next revision after the one it was based on. */
export class SaveRevisionRequest {
  /** Made by the client: sending the same save again does no harm. */
  @IsUUID()
  readonly id!: string;

  @IsInt()
  @Min(0)
  @Max(1_000_000_000)
  readonly basedOnRevision!: number;

  @IsPiece()
  readonly piece!: PieceDocument;

  /** What was done since that revision, in a musician's words. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MAX_REVISION_EDITS)
  @IsString({ each: true })
  @MaxLength(MAX_EDIT_LENGTH, { each: true })
  readonly edits?: readonly string[];
}
