import { parseMidi } from 'midi-file';
import type { NoteTaker } from '../notes.ts';

/** A larger file of clicks and notes would take more memory than reading may. */
const MAX_MIDI_BYTES = 2 * 1024 * 1024;
const MOST_TICKS = 2 ** 40;

/** What is wrong with a file, told to a person. */
export class MidiProblem extends Error {}

/** What is looked at of an event; which of it is there depends on its type. */
interface MidiEvent {
  readonly deltaTime: number;
  readonly type: string;
  readonly text?: string;
  readonly numerator?: number;
  readonly denominator?: number;
  readonly microsecondsPerBeat?: number;
  /** Sharps, or flats below zero, and 1 for minor. */
  readonly key?: number;
  readonly scale?: number;
}

/** An event with its time in ticks from the start. */
export type TimedEvent = MidiEvent & { readonly tick: number };

export interface MidiTracks {
  readonly ticksPerQuarter: number;
  readonly tracks: ReadonlyArray<readonly TimedEvent[]>;
}

/** The tracks of a standard MIDI file, format 0 or 1. A track that is damaged is left out, and told. */
export function readTracks(bytes: Uint8Array, notes: NoteTaker): MidiTracks {
  if (bytes.length > MAX_MIDI_BYTES)
    throw new MidiProblem(
      `The file is larger than ${MAX_MIDI_BYTES / 1024 / 1024} MB, which no click map needs`,
    );
  const start = headerAt(bytes);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const headerLength = view.getUint32(start + 4);
  if (headerLength < 6 || start + 8 + headerLength > bytes.length)
    throw new MidiProblem('The header of this MIDI file is damaged');
  const format = view.getUint16(start + 8);
  const division = view.getUint16(start + 12);
  if (format > 1)
    throw new MidiProblem('This MIDI file holds several pieces at once (format 2): save it as format 0 or 1');
  if (division & 0x8000)
    throw new MidiProblem(
      'This MIDI file counts film frames, not beats, so it has no bars: save it with ticks per quarter',
    );
  if (division === 0) throw new MidiProblem('This MIDI file says that a quarter has no length at all');
  const header = bytes.subarray(start, start + 8 + headerLength);
  const chunks = trackChunks(bytes, view, start + 8 + headerLength);
  const count = Math.max(chunks.length, view.getUint16(start + 10));
  const tracks = chunks.flatMap(({ chunk, breaksOff }, index) => {
    const events = trackEventsMaybe(header, chunk);
    const name = `track ${index + 1} of ${count}`;
    if (breaksOff) notes.finding(`the file breaks off in ${name}`);
    if (!events) notes.leftOut(`${name}: it is damaged`);
    return events ? [events] : [];
  });
  if (chunks.length < count && !chunks.at(-1)?.breaksOff)
    notes.finding(`the file breaks off after track ${chunks.length} of ${count}`);
  if (tracks.length === 0) throw new MidiProblem('No track of this MIDI file can be read');
  return { ticksPerQuarter: division, tracks };
}

/** Where the header begins: at once, or inside a RIFF file. */
function headerAt(bytes: Uint8Array): number {
  const limit = Math.min(64, bytes.length - 14);
  for (let at = 0; at <= limit; at++) if (nameAt(bytes, at) === 'MThd') return at;
  throw new MidiProblem('This is not a MIDI file: it does not begin with a MIDI header');
}

function nameAt(bytes: Uint8Array, at: number): string {
  return String.fromCharCode(...bytes.subarray(at, at + 4));
}

interface TrackChunk {
  readonly chunk: Uint8Array;
  /** Whether it says that it is longer than what is left of the file. */
  readonly breaksOff: boolean;
}

/** Track chunks, their name and length in front; chunks of other names are passed over. */
function trackChunks(bytes: Uint8Array, view: DataView, from: number): readonly TrackChunk[] {
  const chunks: TrackChunk[] = [];
  for (let at = from; at + 8 <= bytes.length;) {
    const length = view.getUint32(at + 4);
    const end = at + 8 + length;
    if (nameAt(bytes, at) === 'MTrk')
      chunks.push({ chunk: bytes.subarray(at, Math.min(bytes.length, end)), breaksOff: end > bytes.length });
    at += 8 + length;
  }
  return chunks;
}

/** Events of one track, parsed as a file of its own, so that one damaged track does not spoil the others. */
function trackEventsMaybe(header: Uint8Array, chunk: Uint8Array): readonly TimedEvent[] | null {
  const alone = new Uint8Array(header.length + chunk.length);
  alone.set(header);
  alone.set(chunk, header.length);
  new DataView(alone.buffer).setUint16(10, 1);
  new DataView(alone.buffer).setUint32(header.length + 4, chunk.length - 8);
  try {
    return lookedAt(parseMidi(alone).tracks[0] as unknown as readonly MidiEvent[]);
  } catch {
    return null;
  }
}

const LOOKED_AT = new Set([
  'timeSignature',
  'setTempo',
  'marker',
  'cuePoint',
  'trackName',
  'keySignature',
  'endOfTrack',
]);

/** What is looked at of a track, with its ticks, and of all else the last of each kind; of a million notes no more is kept. */
function lookedAt(events: readonly MidiEvent[]): readonly TimedEvent[] {
  const kept: TimedEvent[] = [];
  let tick = 0;
  const last = new Map<string, TimedEvent>();
  for (const event of events) {
    tick += event.deltaTime;
    if (!(tick >= 0 && tick < MOST_TICKS)) throw new RangeError('time runs out of bounds');
    if (LOOKED_AT.has(event.type)) kept.push({ ...event, tick });
    else last.set(event.type, { deltaTime: event.deltaTime, type: event.type, tick });
  }
  return [...kept, ...last.values()];
}

/** Text of an event: UTF-8 where its bytes are that, else Western. */
export function eventText({ text = '' }: MidiEvent): string {
  const bytes = Uint8Array.from(text, (letter) => letter.charCodeAt(0) & 0xff);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes).trim();
  } catch {
    return new TextDecoder('windows-1252').decode(bytes).trim();
  }
}
