import {
  accepted,
  compare,
  COUNT_OFF_STYLES,
  meterLength,
  noteValue,
  parseMeter,
  parsePickupEntry,
  parseStatedTempo,
  PLAIN_COUNT_OFF,
  refused,
  statedRate,
  ZERO,
  type Bar,
  type Fraction,
  type Meter,
  type Piece,
  type PulseChoice,
  type Result,
} from '@anchorbeat/core';

/** What is asked when a piece is made, as typed. Everything may stay as it is, and be changed on the map. */
export interface Intake {
  readonly title: string;
  readonly composer: string;
  readonly style: string;
  readonly key: string;
  readonly term: string;
  readonly tempo: string;
  readonly meter: string;
  readonly pickup: string;
  readonly bars: string;
  /** Id of a count-off style. */
  readonly countedIn: string;
  /** Beats in a bar, or empty: as the meter is. */
  readonly beatenIn: string;
}

export const BLANK_INTAKE: Intake = {
  title: '',
  composer: '',
  style: '',
  key: '',
  term: '',
  tempo: 'q = 96',
  meter: '4/4',
  pickup: '',
  bars: '16',
  countedIn: 'plain',
  beatenIn: '',
};

export const UNTITLED = 'Untitled piece';
const MOST_BARS_AT_ONCE = 2000;

/** Meter and tempo as far as they read, for the advice on pulse. */
export function meterAndRateMaybe({
  meter,
  tempo,
}: Intake): { readonly meter: Meter; readonly rate: Fraction } | null {
  const [readMeter, readTempo] = [parseMeter(meter), parseStatedTempo(tempo, noteValue('quarter'))];
  if (!readMeter.ok || !readTempo.ok) return null;
  return { meter: readMeter.value, rate: statedRate(readTempo.value) };
}

/** The piece that the answers describe, or the first thing that does not read. */
export function pieceFromIntake(intake: Intake, sections: readonly string[]): Result<Piece> {
  const meter = parseMeter(intake.meter);
  if (!meter.ok) return refused(`Meter: ${meter.problem.message}`);
  const tempo = parseStatedTempo(intake.tempo, noteValue('quarter'));
  if (!tempo.ok) return refused(`Tempo: ${tempo.problem.message}`);
  const count = Number(intake.bars);
  if (!Number.isInteger(count) || count < 1 || count > MOST_BARS_AT_ONCE)
    return refused(`Bars: start with 1 to ${MOST_BARS_AT_ONCE}; more can be added on the map`);
  const pulse: PulseChoice | null = intake.beatenIn ? { kind: 'in', beats: Number(intake.beatenIn) } : null;
  const bar: Bar = { meter: meter.value, tempoMarks: [], ...(pulse && { pulse }) };
  const pickup = pickupBar(intake.pickup, bar);
  if (!pickup.ok) return refused(`Pickup: ${pickup.problem.message}`);
  const full = Array.from({ length: count }, () => bar);
  const [first = bar, ...rest] = pickup.value ? [pickup.value, ...full] : full;
  const term = intake.term.trim();
  const opening: Bar = {
    ...first,
    tempoMarks: [{ atWholes: ZERO, stated: tempo.value, ...(term && { term }) }],
    ...(intake.countedIn !== PLAIN_COUNT_OFF.style && {
      countOff: { ...PLAIN_COUNT_OFF, style: intake.countedIn },
    }),
  };
  return accepted({ ...headOf(intake), ...(sections.length > 0 && { sections }), bars: [opening, ...rest] });
}

export const COUNTED_IN = COUNT_OFF_STYLES.map(({ id, name }) => ({ id, name }));

function headOf(intake: Intake): Omit<Piece, 'bars'> {
  const [key, style] = [intake.key.trim(), intake.style.trim()];
  return {
    title: intake.title.trim() || UNTITLED,
    subtitle: '',
    composer: intake.composer.trim(),
    ...(key && { key }),
    ...(style && { style }),
  };
}

/** Null where there is no pickup. A pickup is a bar of its own before the full ones; it is beaten as it comes. */
function pickupBar(text: string, { meter }: Bar): Result<Bar | null> {
  if (text.trim() === '') return accepted(null);
  const bar: Bar = { meter, tempoMarks: [] };
  const length = parsePickupEntry(text, bar);
  if (!length.ok) return length;
  const full = meterLength(meter);
  if (length.value.n <= 0 || compare(length.value, full) >= 0)
    return refused('it is shorter than a full bar: e, q., 3/8');
  return accepted({ ...bar, partial: { keeps: 'end', lengthWholes: length.value } });
}
