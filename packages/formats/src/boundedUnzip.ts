import { Unzip, UnzipInflate } from 'fflate';

/** A kilobyte unpacks to a thousand at most. */
const PUSH_BYTES = 1024;

/** What a zip from outside may take, and how it is refused. */
export interface UnzipBounds {
  readonly mostEntries: number;
  /** Whether so many unpacked bytes, out of so many read until then, are too many. */
  readonly isTooMuch: (unpackedBytes: number, readBytes: number) => boolean;
  /** Whether an entry is wanted; the others are not unpacked. */
  readonly wants?: (name: string) => boolean;
  /** Of two entries with one name the later one counts; else that is refused. */
  readonly keepsLater?: boolean;
  /** Made and thrown where the zip goes over its bounds, has a name twice or does not unpack. */
  readonly refusal: (why: 'entries' | 'bytes' | 'twice' | 'damaged', name: string) => Error;
}

/**
 * The entries of a zip by name, folders left out. Unpacked a kilobyte at a time and counted as they come, since what a
 * zip says of its own size cannot be believed.
 */
export function boundedUnzip(
  bytes: Uint8Array,
  { mostEntries, isTooMuch, wants = () => true, keepsLater = false, refusal }: UnzipBounds,
): ReadonlyMap<string, Uint8Array> {
  const entries = new Map<string, Uint8Array[]>();
  let [count, total, read] = [0, 0, 0];
  let refused: Error | null = null;
  const refuse = (...why: Parameters<typeof refusal>): never => {
    // What is thrown comes back as an error of the entry: the first reason is the true one.
    refused ??= refusal(...why);
    throw refused;
  };
  const unzip = new Unzip((file) => {
    if (++count > mostEntries) refuse('entries', file.name);
    if (file.name.endsWith('/') || !wants(file.name)) return;
    if (!keepsLater && entries.has(file.name)) refuse('twice', file.name);
    const parts: Uint8Array[] = [];
    entries.set(file.name, parts);
    file.ondata = (error, data) => {
      if (error) refuse('damaged', file.name);
      total += data.length;
      if (isTooMuch(total, read)) refuse('bytes', file.name);
      parts.push(data);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    while (read < bytes.length) {
      const part = bytes.subarray(read, read + PUSH_BYTES);
      read += part.length;
      unzip.push(part, read === bytes.length);
    }
  } catch {
    throw refused ?? refusal('damaged', '');
  }
  return new Map([...entries].map(([name, parts]) => [name, joined(parts)]));
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
