import { howMany, MAX_BARS, readShorthand, writeShorthand, type Piece } from '@anchorbeat/core';
import { readTableText } from '../barTable/barTable.ts';
import { isBarTable } from '../barTable/readBarTable.ts';
import { decodedText } from '../decodedText.ts';
import { refusedFile, type FileFormat, type FileReading } from '../format.ts';
import { NoteTaker } from '../notes.ts';

const MAX_BYTES = 4_000_000;
const MOST_LINES = 10 * MAX_BARS;
const MOST_PROBLEMS = 100;
const BLANK: Piece = { title: 'Piece in words', subtitle: '', composer: '', bars: [] };

/** The piece line by line as one says it, in a text file. Sections, words to the ensemble, count-offs and answers are not in it. */
export const pieceInWords: FileFormat = {
  id: 'words',
  name: 'In words',
  endings: ['.txt'],
  mediaType: 'text/plain; charset=utf-8',
  read: readTextFile,
  write: (piece) => new TextEncoder().encode(writeShorthand(piece)),
};

/** A text file is a table where its first row names columns of one, else the piece in words. */
function readTextFile(bytes: Uint8Array): FileReading {
  if (bytes.length > MAX_BYTES) return refusedFile('This text is longer than any piece needs');
  const text = decodedText(bytes).replace(/^\uFEFF/, '');
  return isBarTable(text) ? readTableText(text) : readWords(text);
}

function readWords(text: string): FileReading {
  const lines = text.split('\n');
  if (lines.length > MOST_LINES) return refusedFile('This text has more lines than any piece needs');
  const { piece, problems } = readShorthand(text, BLANK);
  if (piece) return { ok: true, piece, notes: new NoteTaker().notes([howMany(piece.bars.length, 'bar')]) };
  let line = 1;
  let readTo = 0;
  return {
    ok: false,
    problems: [...problems]
      .sort((one, other) => one.from - other.from)
      .slice(0, MOST_PROBLEMS)
      .map(({ from, message }) => {
        for (; readTo < from; readTo++) if (text[readTo] === '\n') line++;
        return { field: `line ${line}`, message };
      }),
  };
}
