import { boundedUnzip } from '../boundedUnzip.ts';
import type { NoteTaker } from '../notes.ts';
import { XmlProblem } from './xmlTree.ts';

/** Larger files are refused unread: the score of an opera has a fifth of it. */
const MAX_FILE_BYTES = 32 * 1024 * 1024;
const MAX_UNPACKED_BYTES = 48 * 1024 * 1024;
/**
 * Scores pack ten to thirty times, a part of one bar over and over two hundred times; what unpacks to more than this was made
 * to do harm (a run of one letter packs a thousand times). It is told of what was read so far, so that little is unpacked.
 */
const MAX_RATIO = 400;
const RATIO_FROM_BYTES = 4 * 1024 * 1024;
const MAX_ENTRIES = 400;

/** The score's XML text out of a plain or a compressed file. */
export function scoreText(bytes: Uint8Array, notes: NoteTaker): string {
  if (bytes.length > MAX_FILE_BYTES)
    throw new XmlProblem(`The file is larger than ${MAX_FILE_BYTES / 1024 / 1024} MB, which no score needs`);
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b;
  return decoded(isZip ? unpackedScore(bytes) : bytes, notes).trimStart();
}

/** The score of a compressed file: the one its container names, else the first that could be one. */
function unpackedScore(bytes: Uint8Array): Uint8Array {
  const entries = unpacked(bytes);
  const container = entries.get('META-INF/container.xml');
  const named =
    container && /full-path\s*=\s*["']([^"']+)["']/.exec(new TextDecoder().decode(container))?.[1];
  const first = [...entries.keys()].find((name) => !name.startsWith('META-INF/'));
  const score = (named !== undefined && entries.get(named)) || (first !== undefined && entries.get(first));
  if (!score) throw new XmlProblem('There is no score in this compressed file');
  return score;
}

/** The XML entries; refused as soon as there is more than a score could be. */
function unpacked(bytes: Uint8Array): ReadonlyMap<string, Uint8Array> {
  return boundedUnzip(bytes, {
    mostEntries: MAX_ENTRIES,
    isTooMuch: (unpackedBytes, readBytes) =>
      unpackedBytes > MAX_UNPACKED_BYTES ||
      (unpackedBytes > RATIO_FROM_BYTES && unpackedBytes > MAX_RATIO * readBytes),
    wants: (name) => /\.(xml|musicxml)$/i.test(name) && !name.includes('..'),
    keepsLater: true,
    refusal: (why) => new XmlProblem(REFUSALS[why]),
  });
}

const REFUSALS = {
  entries: 'There are more files in this one than any score needs',
  bytes: 'Unpacked, this file is larger than any score: it is refused for safety',
  twice: 'The compressed file is damaged: it has a file twice',
  damaged: 'The compressed file is damaged: it does not unpack',
} as const;

/** Text by its mark, else by what it declares, else by what it turns out to be. */
function decoded(bytes: Uint8Array, notes: NoteTaker): string {
  const wide = wideEncodingMaybe(bytes);
  if (wide) return new TextDecoder(wide).decode(bytes);
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const declared = /encoding\s*=\s*["']([A-Za-z0-9._-]+)["']/.exec(head)?.[1]?.toLowerCase() ?? 'utf-8';
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    const isOther = declared !== 'utf-8' && declared !== 'utf8' && /[\u0080-\uffff]/.test(text);
    if (isOther)
      notes.guessed(`The file says it is written in ${declared}, but it reads as UTF-8, so it was read so`);
    return text;
  } catch {
    const isKnown = declared !== 'utf-8' && declared !== 'utf8' && !declared.startsWith('utf-16');
    const encoding = isKnown ? declared : 'windows-1252';
    if (!isKnown)
      notes.guessed(
        `The file says it is written in ${declared}, which it is not; it was read as Western text`,
      );
    return textIn(encoding, bytes, notes);
  }
}

function textIn(encoding: string, bytes: Uint8Array, notes: NoteTaker): string {
  try {
    return new TextDecoder(encoding).decode(bytes);
  } catch {
    notes.guessed(`The encoding "${encoding.slice(0, 30)}" is not known; it was read as Western text`);
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** UTF-16, by its mark or by the zero beside the first bracket. */
function wideEncodingMaybe(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  const [a, b] = [bytes[0], bytes[1]];
  if ((a === 0xff && b === 0xfe) || (a === 0x3c && b === 0)) return 'utf-16le';
  if ((a === 0xfe && b === 0xff) || (a === 0 && b === 0x3c)) return 'utf-16be';
  return null;
}
