import type { Proof } from '@anchorbeat/core';
import type { Block } from './page.ts';
import type { PageFrame, SheetSettings } from './settings.ts';

/** What a sheet is made from. */
export interface SheetRequest {
  readonly proof: Proof;
  readonly settings: SheetSettings;
}

/** One kind of sheet: one file with this shape, listed once. */
export interface Sheet {
  readonly id: string;
  readonly name: string;
  /** What it is good for, in a line. */
  readonly says: string;
  /** Which of the settings change anything. */
  readonly hears: ReadonlyArray<'section' | 'bars' | 'pulse' | 'count' | 'room'>;
  readonly blocks: (request: SheetRequest, frame: PageFrame) => readonly Block[];
}
