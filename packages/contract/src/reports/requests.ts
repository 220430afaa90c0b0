import { IsString, MaxLength } from 'class-validator';

const MOST_TEXT = 4000;

/** An error that a page met, for the log. */
export class ReportErrorRequest {
  @IsString()
  @MaxLength(MOST_TEXT)
  readonly message!: string;

  @IsString()
  @MaxLength(MOST_TEXT)
  readonly stack!: string;

  /** Which part of the page it was. */
  @IsString()
  @MaxLength(MOST_TEXT)
  readonly where!: string;

  @IsString()
  @MaxLength(MOST_TEXT)
  readonly address!: string;
}
