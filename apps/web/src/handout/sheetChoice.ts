import { COUNT_SCHOOLS, sectionsOf, type Proof } from '@anchorbeat/core';
import {
  joined,
  PAPER_NAMES,
  PLAIN_SHEET,
  PULSE_DRAWINGS,
  sheetDocument,
  SHEETS,
  TYPE_SIZES,
  type Sheet,
  type SheetDocument,
  type SheetSettings,
} from '@anchorbeat/sheets';
import { Kept } from '../kept/kept.ts';

/** For whom a sheet is: the director, one section, or every section one after another. */
export type SheetReader = 'director' | 'every section' | { readonly section: string };

export interface SheetChoice {
  readonly sheetId: string;
  readonly reader: SheetReader;
  readonly settings: SheetSettings;
}

type KeptSettings = Omit<SheetSettings, 'section' | 'from' | 'to'>;

/** How sheets are printed is kept in this browser; which bars and for whom belongs to the moment. */
export const keptSheetSettings = new Kept<KeptSettings>('anchorbeat.sheets', readSettings);

function readSettings(stored: unknown): KeptSettings {
  const known = typeof stored === 'object' && stored !== null ? (stored as Partial<KeptSettings>) : {};
  const one = <T>(words: readonly T[], value: T | undefined, usual: T) =>
    words.find((word) => word === value) ?? usual;
  const schools = COUNT_SCHOOLS.map(({ id }) => id);
  return {
    paper: one(PAPER_NAMES, known.paper, PLAIN_SHEET.paper),
    type: one(TYPE_SIZES, known.type, PLAIN_SHEET.type),
    pulse: one(PULSE_DRAWINGS, known.pulse, PLAIN_SHEET.pulse),
    countSchool: one(schools, known.countSchool, PLAIN_SHEET.countSchool),
    isSideways: known.isSideways === true,
    hasRoomToWrite: known.hasRoomToWrite === true,
    twoToAPage: known.twoToAPage === true,
  };
}

export function chosenSheet({ sheetId }: SheetChoice): Sheet {
  return SHEETS.find(({ id }) => id === sheetId) ?? SHEETS[0];
}

/** The pages of what is chosen. */
export function chosenDocument(proof: Proof, choice: SheetChoice): SheetDocument {
  const sheet = chosenSheet(choice);
  const { reader, settings } = choice;
  const forSection = (section: string | null) => sheetDocument(sheet, proof, { ...settings, section });
  if (!sheet.hears.includes('section') || reader === 'director') return forSection(null);
  if (reader !== 'every section') return forSection(reader.section);
  const title = `${proof.piece.title || 'Untitled'} · ${sheet.name}`;
  return joined(title, sectionsOf(proof.piece).map(forSection));
}
