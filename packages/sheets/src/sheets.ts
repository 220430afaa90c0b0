import type { Proof } from '@anchorbeat/core';
import { flowed, twoToAPage } from './flow.ts';
import type { SheetDocument } from './page.ts';
import { frameOf, type SheetSettings } from './settings.ts';
import type { Sheet } from './sheet.ts';
import { countSheet } from './sheets/countSheet.ts';
import { errata } from './sheets/errata.ts';
import { hardestSeams } from './sheets/hardestSeams.ts';
import { overview } from './sheets/overview.ts';
import { patterns } from './sheets/patterns.ts';

/** Every sheet, listed once. */
export const SHEETS: readonly [Sheet, ...Sheet[]] = [countSheet, overview, hardestSeams, patterns, errata];

/** Sheets one after another as one: those of every section in one file. */
export function joined(title: string, documents: readonly SheetDocument[]): SheetDocument {
  return { title, pages: documents.flatMap(({ pages }) => pages) };
}

/** A sheet of a piece in pages, ready to be shown, printed or written. */
export function sheetDocument(sheet: Sheet, proof: Proof, settings: SheetSettings): SheetDocument {
  const frame = frameOf(settings);
  const name = proof.piece.title || 'Untitled';
  const foot = [name, sheet.name, sheet.hears.includes('section') && settings.section]
    .filter(Boolean)
    .join(' · ');
  const pages = flowed(sheet.blocks({ proof, settings }, frame), frame, foot);
  return { title: foot, pages: settings.twoToAPage ? twoToAPage(pages) : pages };
}
