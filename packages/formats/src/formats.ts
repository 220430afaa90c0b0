import type { FileFormat } from './format.ts';
import { barTable } from './barTable/barTable.ts';
import { midi } from './midi/midi.ts';
import { musicXml } from './musicXml/musicXml.ts';
import { pieceJson } from './pieceJson/pieceJson.ts';
import { pieceInWords } from './words/pieceInWords.ts';

/** Every format, listed once. */
export const FILE_FORMATS: readonly FileFormat[] = [pieceJson, barTable, musicXml, midi, pieceInWords];

/** The format of a file by its ending, or null where none is known. */
export function formatOfFileMaybe(fileName: string): FileFormat | null {
  const lower = fileName.toLowerCase();
  return FILE_FORMATS.find((format) => format.endings.some((ending) => lower.endsWith(ending))) ?? null;
}
