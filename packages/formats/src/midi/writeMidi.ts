import {
  barLength,
  barLabels,
  barName,
  clickKind,
  compilePiece,
  countOffFor,
  meterLength,
  pulseOf,
  seamWords,
  toNumber,
  type Bar,
  type ClickKind,
  type CompiledPiece,
  type CountOff,
  type Fraction,
  type Piece,
} from '@anchorbeat/core';
import { keySignatureMaybe } from '../keyNames.ts';
import { clickEvents, keyEvent, meterEvent, midiFile, textEvent, type MidiEventBytes } from './midiBytes.ts';
import { COUNT_OFF_CUE, ENTRY_CUE } from './readMidi.ts';
import { tempoEvents, tickAt, timedTicks, type TickMap } from './tempoTrack.ts';
import { clickPlaces, tickGridOf, type TickGrid } from './ticks.ts';

/** Percussion notes and how hard they are struck: general MIDI has wood blocks there. */
const CLICKS: Readonly<Record<ClickKind, readonly [note: number, velocity: number]>> = {
  downbeat: [76, 120],
  group: [76, 96],
  beat: [77, 100],
  subdivision: [77, 45],
  countoff: [77, 100],
  countoffDownbeat: [76, 110],
  overlay: [77, 70],
};

/** Everything a file is written from. */
interface Source {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly countOff: CountOff;
  readonly grid: TickGrid;
  readonly map: TickMap;
}

/**
 * A piece as it is performed, as a MIDI file of format 1: a conductor's track with meters, tempi, key, rehearsal marks and
 * seams, and a track of clicks with the count-off. Its time is never more than 1 ms from ours (timing.md, Click, MIDI and audio).
 */
export function writeMidi(piece: Piece): Uint8Array {
  const compiled = compilePiece(piece);
  const countOff = countOffFor(piece, compiled.timeline, 0);
  const grid = tickGridOf(piece, [countOff.lengthWholes]);
  const map = tickMapOf(piece, compiled, countOff, grid);
  const source: Source = { piece, compiled, countOff, grid, map };
  const endTick = map.barTicks.at(-1) ?? 0;
  return midiFile(grid.ticksPerQuarter, [conductorTrack(source), clickTrack(source)], endTick);
}

/** Bars by tick. Each begins at the nearest tick to its own place, so that nothing adds up. */
function tickMapOf(
  piece: Piece,
  { timeline }: CompiledPiece,
  countOff: CountOff,
  { ticksPerQuarter }: TickGrid,
): TickMap {
  const inTicks = ({ n, d }: Fraction) => (4 * ticksPerQuarter * n) / d;
  let at = inTicks(countOff.lengthWholes);
  const barTicks = Array.from(timeline.route.barIndex, (written) => {
    const tick = Math.round(at);
    at += inTicks(barLength(piece.bars[written] as Bar));
    return tick;
  });
  return { ticksPerQuarter, barTicks: [...barTicks, Math.round(at)], entrySeconds: countOff.lengthSeconds };
}

function conductorTrack(source: Source): readonly MidiEventBytes[] {
  const { piece, compiled, grid, map } = source;
  const signature = keySignatureMaybe(piece.key ?? '');
  const moments = timedTicks(piece, compiled, map);
  const start = { tick: 0, seconds: 0 };
  return [
    textEvent(0, 'trackName', piece.title),
    ...(grid.isExact
      ? []
      : [textEvent(0, 'text', 'Some places are finer than a tick: they are at the nearest one')]),
    ...(signature ? [keyEvent(0, signature.fifths, signature.isMinor)] : []),
    ...meterEvents(source),
    ...tempoEvents(map.barTicks[0] === 0 ? moments : [start, ...moments], grid.ticksPerQuarter),
    textEvent(0, 'cuePoint', COUNT_OFF_CUE),
    textEvent(map.barTicks[0] ?? 0, 'cuePoint', ENTRY_CUE),
    ...placeEvents(source),
  ];
}

/** A signature wherever the length of a bar, or the way it is written, changes; the count-off has that of the entry. */
function meterEvents({ piece, compiled, map }: Source): readonly MidiEventBytes[] {
  const events: MidiEventBytes[] = [];
  let before = '';
  const put = (tick: number, bar: Bar) => {
    const [count, unit] = signatureOf(bar);
    const text = `${count}/${unit}`;
    if (text === before) return;
    before = text;
    events.push(meterEvent(tick, count, unit, clocksOf(bar)));
  };
  const { barIndex } = compiled.timeline.route;
  const entry = piece.bars[barIndex[0] ?? 0] as Bar;
  if ((map.barTicks[0] ?? 0) > 0) put(0, { ...entry, partial: undefined });
  barIndex.forEach((written, performed) => put(map.barTicks[performed] ?? 0, piece.bars[written] as Bar));
  return events;
}

const FINEST_UNIT = 128;

/** A bar's real length over a power of two: as it is written, where that is one; else the coarsest that fits. */
function signatureOf(bar: Bar): readonly [count: number, unit: number] {
  const length = barLength(bar);
  const written = Math.max(...bar.meter.parts.map(({ unit, printedUnit }) => printedUnit ?? unit));
  const first =
    Number.isInteger(Math.log2(written)) && toNumber(length) === toNumber(meterLength(bar.meter))
      ? written
      : 4;
  for (let unit = first; unit <= FINEST_UNIT; unit *= 2) {
    const count = (length.n * unit) / length.d;
    if (Number.isInteger(count) && count >= 1 && count <= 255) return [count, unit];
  }
  return [Math.min(255, Math.max(1, Math.round(toNumber(length) * FINEST_UNIT))), FINEST_UNIT];
}

/** MIDI clocks from beat to beat, 24 a quarter. */
function clocksOf(bar: Bar): number {
  return Math.max(1, Math.round(96 * toNumber(pulseOf(bar)[0]?.lengthWholes ?? { n: 1, d: 4 })));
}

/** Rehearsal marks as markers, seams as cue points. */
function placeEvents({ piece, compiled, map }: Source): readonly MidiEventBytes[] {
  const { route } = compiled.timeline;
  const labels = barLabels(piece);
  const marks = Array.from(route.barIndex, (written, performed) => {
    const mark = piece.bars[written]?.rehearsalMark;
    return mark === undefined ? [] : [textEvent(map.barTicks[performed] ?? 0, 'marker', mark)];
  }).flat();
  const seams = compiled.seams.map((seam) => {
    const name = barName(labels, route.barIndex[seam.performed] ?? 0);
    const says = `seam, ${name}: ${seamWords({ piece, compiled }, seam)}`;
    return textEvent(map.barTicks[seam.performed] ?? 0, 'cuePoint', says);
  });
  return [...marks, ...seams];
}

function clickTrack({ piece, compiled, countOff, grid, map }: Source): readonly MidiEventBytes[] {
  const { clicks, timeline } = compiled;
  const wholeSeconds = countOff.lengthSeconds / Math.max(1e-9, toNumber(countOff.lengthWholes));
  const counted = countOff.beats
    .filter(({ sound }) => sound !== 'silent')
    .map(({ timeSeconds, isDownbeat, sound }) => ({
      tick: Math.round((4 * grid.ticksPerQuarter * timeSeconds) / wholeSeconds),
      kind:
        sound === 'subdivision'
          ? ('subdivision' as const)
          : isDownbeat
            ? ('countoffDownbeat' as const)
            : ('countoff' as const),
    }));
  const placesOf = new Map(piece.bars.map((bar) => [bar, clickPlaces(bar)]));
  const played = Array.from(clicks.performed, (performed, index) => {
    const bar = piece.bars[timeline.route.barIndex[performed] ?? 0] as Bar;
    const [beat, part] = [clicks.beat[index] ?? 0, clicks.part[index] ?? 0];
    const place = placesOf.get(bar)?.find((each) => each.beat === beat && each.part === part);
    return { tick: tickAt(map, performed, place?.at ?? { n: 0, d: 1 }), kind: clickKind(clicks, index) };
  });
  const all = [...counted, ...played];
  const usual = Math.max(1, Math.floor(grid.ticksPerQuarter / 16));
  return [
    textEvent(0, 'trackName', 'Click'),
    ...all.flatMap(({ tick, kind }, index) => {
      const next = all[index + 1]?.tick ?? Infinity;
      const [note, velocity] = CLICKS[kind];
      return clickEvents(tick, Math.max(1, Math.min(usual, next - tick - 1)), note, velocity);
    }),
  ];
}
