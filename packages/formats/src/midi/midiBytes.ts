/** An event with its time in ticks, its bytes ready but for the time in front. */
export interface MidiEventBytes {
  readonly tick: number;
  readonly bytes: readonly number[];
}

const META = 0xff;
const NOTE_ON = 0x99;
const NOTE_OFF = 0x89;
const MOST_MICROSECONDS = 0xffffff;

export function textEvent(
  tick: number,
  kind: 'text' | 'trackName' | 'marker' | 'cuePoint',
  text: string,
): MidiEventBytes {
  const type = { text: 1, trackName: 3, marker: 6, cuePoint: 7 }[kind];
  const letters = [...new TextEncoder().encode(text)];
  return { tick, bytes: [META, type, ...variable(letters.length), ...letters] };
}

export function tempoEvent(tick: number, microseconds: number): MidiEventBytes {
  const value = Math.min(Math.max(1, microseconds), MOST_MICROSECONDS);
  return { tick, bytes: [META, 0x51, 3, (value >> 16) & 0xff, (value >> 8) & 0xff, value & 0xff] };
}

/** `unit` is a power of two; `clocks` are MIDI clocks (24 a quarter) from beat to beat. */
export function meterEvent(tick: number, count: number, unit: number, clocks: number): MidiEventBytes {
  return { tick, bytes: [META, 0x58, 4, count, Math.log2(unit), Math.min(255, clocks), 8] };
}

export function keyEvent(tick: number, fifths: number, isMinor: boolean): MidiEventBytes {
  return { tick, bytes: [META, 0x59, 2, fifths & 0xff, isMinor ? 1 : 0] };
}

/** A note on the percussion channel, and its end. */
export function clickEvents(
  tick: number,
  lengthTicks: number,
  note: number,
  velocity: number,
): readonly MidiEventBytes[] {
  return [
    { tick, bytes: [NOTE_ON, note, velocity] },
    { tick: tick + lengthTicks, bytes: [NOTE_OFF, note, 0] },
  ];
}

/** A format 1 file. Events of a track are put in order of time; at one tick they keep theirs. */
export function midiFile(
  ticksPerQuarter: number,
  tracks: ReadonlyArray<readonly MidiEventBytes[]>,
  endTick: number,
): Uint8Array {
  const chunks = tracks.map((events) => chunk('MTrk', trackBytes(events, endTick)));
  const header = chunk('MThd', [0, 1, 0, tracks.length, ticksPerQuarter >> 8, ticksPerQuarter & 0xff]);
  const parts = [header, ...chunks];
  const file = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    file.set(part, at);
    at += part.length;
  }
  return file;
}

function trackBytes(events: readonly MidiEventBytes[], endTick: number): readonly number[] {
  const ordered = [...events].sort((a, b) => a.tick - b.tick);
  const bytes: number[] = [];
  let tick = 0;
  for (const event of ordered) {
    for (const byte of variable(event.tick - tick)) bytes.push(byte);
    for (const byte of event.bytes) bytes.push(byte);
    tick = event.tick;
  }
  for (const byte of [...variable(Math.max(0, endTick - tick)), META, 0x2f, 0]) bytes.push(byte);
  return bytes;
}

/** A number in as many seven-bit bytes as it needs, all but the last with their high bit set. */
function variable(value: number): readonly number[] {
  const bytes = [value % 128];
  for (let rest = Math.floor(value / 128); rest > 0; rest = Math.floor(rest / 128))
    bytes.unshift((rest % 128) + 128);
  return bytes;
}

function chunk(name: string, content: readonly number[]): Uint8Array {
  const bytes = new Uint8Array(8 + content.length);
  bytes.set(new TextEncoder().encode(name));
  new DataView(bytes.buffer).setUint32(4, content.length);
  bytes.set(content, 8);
  return bytes;
}
