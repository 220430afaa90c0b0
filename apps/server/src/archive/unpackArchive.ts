import { createHash } from 'node:crypto';
import { boundedUnzip } from '@anchorbeat/formats';
import { CHECKSUMS_NAME, SEAL_BYTES, sealText } from './archiveRows.ts';

/** Why an archive is refused, in words for who brings it back. */
export class ArchiveError extends Error {}

/** What a server takes in unpacked; on the command line there is more room. */
const MOST_UNPACKED_BYTES = 120 * 1024 * 1024;
const MOST_ENTRIES = 20_000;
const END_BYTES = 22;
const END_SIGNATURE = 0x0605_4b50;

/**
 * The files of an archive by name, each with the check sum that was noted for it.
 * @throws ArchiveError that says what of it is damaged, missing or not an archive's.
 */
export function unpackArchive(
  bytes: Uint8Array,
  mostBytes = MOST_UNPACKED_BYTES,
): ReadonlyMap<string, Uint8Array> {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) throw new ArchiveError('This is not a zip, and so no archive');
  const isDamaged = mustEnd(bytes) && !hasItsSeal(bytes);
  try {
    const files = unpacked(bytes, mostBytes);
    mustMatchSums(files);
    if (!isDamaged) return files;
  } catch (error) {
    throw isDamaged && error instanceof ArchiveError ? asDamage(error) : error;
  }
  throw new ArchiveError(`${DAMAGED} its list of files is not as it was written`);
}

const DAMAGED = 'This archive is damaged:';

/** What was found wrong in an archive that was changed after it was written: it was not written so. */
function asDamage({ message }: ArchiveError): ArchiveError {
  return new ArchiveError(
    message.startsWith(DAMAGED) ? message : `${DAMAGED} ${message.replace(/^This/, 'this')}`,
  );
}

/** Refuses what breaks off; gives whether the check sum of the whole stands at its end. A zip packed anew has none. */
function mustEnd(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const endsAt = (comment: number) => {
    const at = bytes.length - END_BYTES - comment;
    return at >= 0 && view.getUint32(at, true) === END_SIGNATURE;
  };
  if (endsAt(SEAL_BYTES)) return true;
  if (endsAt(0)) return false;
  throw new ArchiveError('This archive breaks off: the end of it is missing');
}

function hasItsSeal(bytes: Uint8Array): boolean {
  const sealed = bytes.subarray(0, bytes.length - SEAL_BYTES);
  const seal = new TextDecoder().decode(bytes.subarray(bytes.length - SEAL_BYTES));
  return seal === sealText(createHash('sha256').update(sealed).digest('hex'));
}

function unpacked(bytes: Uint8Array, mostBytes: number): ReadonlyMap<string, Uint8Array> {
  return boundedUnzip(bytes, {
    mostEntries: MOST_ENTRIES,
    isTooMuch: (total) => total > mostBytes,
    refusal: (why, name) => {
      const says = {
        entries: 'This zip has more files than any archive',
        bytes: `Unpacked, this archive is larger than ${Math.round(mostBytes / 1024 / 1024)} MB: bring it back on the command line`,
        twice: `This archive has "${shown(name)}" twice`,
        damaged: `${DAMAGED} it does not unpack`,
      };
      return new ArchiveError(says[why]);
    },
  });
}

/** Every file is listed with its check sum, and every one that is listed is there. */
function mustMatchSums(files: ReadonlyMap<string, Uint8Array>): void {
  const list = files.get(CHECKSUMS_NAME);
  if (!list)
    throw new ArchiveError(`This is no archive of Anchorbeat, or it breaks off: it has no ${CHECKSUMS_NAME}`);
  const lines = new TextDecoder().decode(list).split('\n').filter(Boolean);
  const sums = new Map(lines.map((line) => [line.slice(66), line.slice(0, 64)]));
  for (const [name, bytes] of files) {
    if (name === CHECKSUMS_NAME) continue;
    const sum = sums.get(name);
    if (sum === undefined) throw new ArchiveError(`"${shown(name)}" in this archive is not on its list`);
    if (createHash('sha256').update(bytes).digest('hex') !== sum)
      throw new ArchiveError(`${DAMAGED} "${shown(name)}" is not as it was written`);
  }
  for (const name of sums.keys())
    if (!files.has(name)) throw new ArchiveError(`"${shown(name)}" is missing in this archive`);
}

function shown(name: string): string {
  return name.length > 60 ? `${name.slice(0, 57)}…` : name;
}
