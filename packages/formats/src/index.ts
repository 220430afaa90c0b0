export { FILE_FORMATS, formatOfFileMaybe } from './formats.ts';
export type { FileFormat, FileReading } from './format.ts';
export { pieceJson } from './pieceJson/pieceJson.ts';
export { PIECE_SCHEMA } from './pieceJson/schema.ts';
export { barTable, writeBarTable } from './barTable/barTable.ts';
export { readBarTable } from './barTable/readBarTable.ts';
export type { TableProblem, TableReading } from './barTable/readBarTable.ts';
export { writeWav } from './wav/wav.ts';
export type { WavCue, WavOptions } from './wav/wav.ts';
