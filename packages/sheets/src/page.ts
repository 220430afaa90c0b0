import type { Shape } from '@anchorbeat/drawing';

/** What a part of a page is to somebody who has it read aloud. */
export type ItemRole = 'title' | 'heading' | 'words' | 'drawing' | 'furniture';

/** Shapes placed on a page: `x` and `y` in points from its upper left corner, `scale` in points a pixel of the drawing. */
export interface PageItem {
  readonly role: ItemRole;
  readonly x: number;
  readonly y: number;
  readonly scale: number;
  readonly shapes: readonly Shape[];
  /** What a drawing shows, in words; others say what is written in them. */
  readonly says?: string;
}

export interface SheetPage {
  readonly widthPt: number;
  readonly heightPt: number;
  readonly items: readonly PageItem[];
}

/** A sheet ready to be shown, printed or written. */
export interface SheetDocument {
  readonly title: string;
  readonly pages: readonly SheetPage[];
}

/** A piece of a sheet that is never cut by the end of a page; its items are placed from its own upper left corner. */
export interface Block {
  readonly heightPt: number;
  readonly items: readonly PageItem[];
  /** A heading stays with what follows it. */
  readonly staysWithNext?: boolean;
}
