import {
  accepted,
  barLabels,
  formatMeter,
  formatRhythm,
  MAX_TEXT_LENGTH,
  meterRun,
  parseEquivalence,
  parseHoldEntry,
  parseMeter,
  parsePickupEntry,
  parsePulseChoice,
  parseRhythm,
  parseSectionEntry,
  parseSignsEntry,
  parseTempoEntry,
  refused,
  sectionsOf,
  ZERO,
  type Bar,
  type BarSpan,
  type Edit,
  type Piece,
  type Result,
} from '@anchorbeat/core';

export type EntryKind =
  | 'meter'
  | 'tempo'
  | 'equivalence'
  | 'pickup'
  | 'add'
  | 'repeat'
  | 'mark'
  | 'label'
  | 'hold'
  | 'signs'
  | 'pulse'
  | 'notes'
  | 'section'
  | 'rest'
  | 'note'
  | 'go';

/** What an entry asks for: a change of the piece, or a bar to stand on. */
export type EntryAct =
  | { readonly kind: 'edit'; readonly edit: Edit }
  | { readonly kind: 'go'; readonly bar: number };

export interface EntryContext {
  readonly piece: Piece;
  readonly span: BarSpan;
  /** Entered with shift: a meter then holds on to the next change. */
  readonly isWide: boolean;
}

/** One thing that can be typed on the map: its key, its words, and how its text is read. */
export interface EntryDefinition {
  readonly key: string;
  readonly name: string;
  readonly prompt: string;
  readonly example: string;
  readonly initial: (context: EntryContext) => string;
  readonly read: (text: string, context: EntryContext) => Result<EntryAct>;
}

const MOST_AT_ONCE = 2000;

/** Every typed entry, listed once. */
export const ENTRIES: { readonly [K in EntryKind]: EntryDefinition } = {
  meter: {
    key: 'm',
    name: 'meter',
    prompt: 'Meter of',
    example: '7/8 · 7/8 as 2+2+3 · (3+2)/8 · 3/4+3/8',
    initial: (context) => formatMeter(firstBar(context).meter),
    read: (text, context) => {
      const meter = parseMeter(text);
      if (!meter.ok) return meter;
      const span = context.isWide ? meterRun(context.piece, context.span.from) : context.span;
      return edit({ kind: 'setMeter', ...span, meter: meter.value });
    },
  },
  tempo: {
    key: 't',
    name: 'tempo',
    prompt: 'Tempo at',
    example: 'q. = 66 · 132 · h = 60 on 3 · rit. to q = 60 · a tempo · nothing takes it out',
    initial: () => '',
    read: (text, { piece, span }) => {
      if (text.trim() === '') return edit({ kind: 'clearTempoMarks', ...span });
      const mark = parseTempoEntry(text, barOf(piece, span.from));
      return mark.ok ? edit({ kind: 'setTempoMark', bar: span.from, mark: mark.value }) : mark;
    },
  },
  equivalence: {
    key: '=',
    name: 'note = note',
    prompt: 'Note before = note after, at',
    example: 'e = e · q. = q · e3 = s (triplet eighth = sixteenth)',
    initial: () => '',
    read: (text, { span }) => {
      const equivalence = parseEquivalence(text);
      if (!equivalence.ok) return equivalence;
      const mark = { atWholes: ZERO, equivalence: equivalence.value };
      return edit({ kind: 'setTempoMark', bar: span.from, mark });
    },
  },
  pickup: {
    key: 'p',
    name: 'pickup',
    prompt: 'Pickup length of',
    example: 'e · q. · 3/8 · nothing makes it a full bar',
    initial: () => '',
    read: (text, { piece, span }) => {
      if (text.trim() === '') return edit({ kind: 'setPickup', bar: span.from, lengthWholes: null });
      const length = parsePickupEntry(text, barOf(piece, span.from));
      return length.ok ? edit({ kind: 'setPickup', bar: span.from, lengthWholes: length.value }) : length;
    },
  },
  add: {
    key: 'b',
    name: 'bars',
    prompt: 'Bars to add after',
    example: '4 · 2 of 7/8',
    initial: () => '1',
    read: readAddedBars,
  },
  repeat: {
    key: 'r',
    name: 'again',
    prompt: 'More times for',
    example: '5 writes the selected bars out five more times',
    initial: () => '1',
    read: (text, { span }) => {
      const times = readCount(text);
      return times.ok ? edit({ kind: 'repeatBars', ...span, times: times.value }) : times;
    },
  },
  mark: {
    key: 'k',
    name: 'mark',
    prompt: 'Rehearsal mark at',
    example: 'C · nothing takes it off',
    initial: (context) => firstBar(context).rehearsalMark ?? '',
    read: (text, { span }) => edit({ kind: 'setRehearsalMark', bar: span.from, mark: shortText(text) }),
  },
  label: {
    key: 'l',
    name: 'number',
    prompt: 'Printed number of',
    example: '12a · 101 · nothing lets it count on',
    initial: ({ piece, span }) => barLabels(piece)[span.from] ?? '',
    read: (text, { span }) => edit({ kind: 'setLabel', bar: span.from, label: shortText(text) }),
  },
  hold: {
    key: 'h',
    name: 'hold',
    prompt: 'Hold in',
    example: '2 beats on 3 · 1.5 seconds · until cued · breath 0.5 seconds · nothing takes it out',
    initial: () => '',
    read: (text, { piece, span }) => {
      if (text.trim() === '') return edit({ kind: 'setHolds', bar: span.from, holds: [] });
      const bar = barOf(piece, span.from);
      const hold = parseHoldEntry(text, bar);
      if (!hold.ok) return hold;
      return edit({ kind: 'setHolds', bar: span.from, holds: [...(bar.holds ?? []), hold.value] });
    },
  },
  signs: {
    key: 's',
    name: 'repeat, jump',
    prompt: 'Signs at',
    example: '|: · :| 3 times · ending 1 · segno · to coda · D.S. al coda · fine · nothing takes them off',
    initial: () => '',
    read: (text, { span }) => {
      const signs = parseSignsEntry(text);
      return signs.ok ? edit({ kind: 'setSigns', bar: span.from, signs: signs.value }) : signs;
    },
  },
  pulse: {
    key: 'u',
    name: 'pulse',
    prompt: 'Pulse of',
    example: 'in 2 · in six · q q e. · nothing beats it as usual',
    initial: () => '',
    read: (text, { span }) => {
      if (text.trim() === '') return edit({ kind: 'setPulse', ...span, pulse: undefined });
      const pulse = parsePulseChoice(/^\d+$/.test(text.trim()) ? `in ${text.trim()}` : text);
      return pulse.ok ? edit({ kind: 'setPulse', ...span, pulse: pulse.value }) : pulse;
    },
  },
  notes: {
    key: 'n',
    name: 'notes',
    prompt: 'Notes of',
    example: 'q e e rq h · e3 e3 e3 for a triplet · h~ tied · nothing takes them out',
    initial: (context) => formatRhythm(firstBar(context).rhythm ?? []),
    read: (text, { span }) => {
      if (text.trim() === '') return edit({ kind: 'setRhythm', bar: span.from, rhythm: undefined });
      const rhythm = parseRhythm(text);
      return rhythm.ok ? edit({ kind: 'setRhythm', bar: span.from, rhythm: rhythm.value }) : rhythm;
    },
  },
  section: {
    key: 'e',
    name: 'section',
    prompt: 'Sections at',
    example: 'Bells enter · Reeds rest 8 · Drums cue after the bell · Drums alone takes it back',
    initial: () => '',
    read: (text, { piece, span }) => {
      const entry = parseSectionEntry(text, sectionsOf(piece), span.from);
      if (!entry.ok) return entry;
      const { value } = entry;
      const restsWhileSelected = value.kind === 'markSection' && value.does === 'rests' && span.count > 1;
      return edit(restsWhileSelected ? { kind: 'restSection', section: value.section, ...span } : value);
    },
  },
  rest: {
    key: 'x',
    name: 'rest',
    prompt: 'Rest of',
    example: 'nothing for everybody · Bells for one section',
    initial: () => '',
    read: (text, { piece, span }) => {
      const typed = text.trim();
      if (typed === '') return edit({ kind: 'restBars', ...span });
      const sections = sectionsOf(piece);
      const known = sections.find((name) => name.toLowerCase() === typed.toLowerCase());
      if (known) return edit({ kind: 'restSection', section: known, ...span });
      const shown = typed.slice(0, 20);
      return refused(
        sections.length > 0
          ? `There is no section ${shown}: there are ${sections.join(', ')}; "${shown} rest" with the key e adds one`
          : `This piece has no sections yet: "${shown} rest" with the key e adds one`,
      );
    },
  },
  note: {
    key: 'w',
    name: 'word',
    prompt: 'Word to the ensemble at',
    example: 'bells: lift before the bar · nothing takes it off',
    initial: (context) => firstBar(context).note ?? '',
    read: (text, { span }) => edit({ kind: 'setNote', bar: span.from, note: shortText(text) }),
  },
  go: {
    key: 'g',
    name: 'go to',
    prompt: 'Go from',
    example: '24 · C (a rehearsal mark) · four before C',
    initial: () => '',
    read: readPlace,
  },
};

export const ENTRY_KINDS = Object.keys(ENTRIES) as EntryKind[];

function readAddedBars(text: string, { span }: EntryContext): Result<EntryAct> {
  const [countText = '', meterText] = text.split(/\s+of\s+/);
  const count = readCount(countText);
  if (!count.ok) return count;
  const meter = meterText === undefined ? null : parseMeter(meterText);
  if (meter && !meter.ok) return meter;
  return edit({
    kind: 'insertBars',
    at: span.from + span.count,
    count: count.value,
    ...(meter && { meter: meter.value }),
  });
}

const NUMBER_WORDS = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight'];
const FROM_PLACE = /^(\d{1,4}|[a-z]+)\s+(before|after)\s+(.+)$/i;

/** Finds a bar by its printed number or rehearsal mark, or so many bars before or after one: "four before C". */
export function readPlace(text: string, { piece }: Pick<EntryContext, 'piece'>): Result<EntryAct> {
  const relative = FROM_PLACE.exec(text.trim());
  if (!relative) return readNamedPlace(text, piece);
  const [, amount = '', side = '', name = ''] = relative;
  const bars = /^\d/.test(amount) ? Number(amount) : NUMBER_WORDS.indexOf(amount.toLowerCase()) + 1;
  const place = readNamedPlace(name, piece);
  if (!place.ok || place.value.kind !== 'go' || bars === 0) return place;
  const bar = place.value.bar + (side.toLowerCase() === 'before' ? -bars : bars);
  if (bar >= 0 && bar < piece.bars.length) return accepted({ kind: 'go', bar });
  const missing = bars === 1 ? 'is no bar' : `are not ${amount} bars`;
  return refused(`There ${missing} ${side.toLowerCase()} ${name.trim().slice(0, 20)}`);
}

function readNamedPlace(text: string, piece: Piece): Result<EntryAct> {
  const wanted = text.trim().toLowerCase();
  const byLabel = barLabels(piece).findIndex((label) => label?.toLowerCase() === wanted);
  const byMark = piece.bars.findIndex((bar) => bar.rehearsalMark?.toLowerCase() === wanted);
  const bar = byLabel >= 0 ? byLabel : byMark;
  return bar >= 0
    ? accepted({ kind: 'go', bar })
    : refused(`There is no bar and no rehearsal mark ${text.trim().slice(0, 20)}`);
}

function readCount(text: string): Result<number> {
  const count = Number(text.trim());
  if (Number.isInteger(count) && count >= 1 && count <= MOST_AT_ONCE) return accepted(count);
  return refused(`Give a whole number from 1 to ${MOST_AT_ONCE}`);
}

function shortText(text: string): string | undefined {
  const trimmed = text.trim().slice(0, MAX_TEXT_LENGTH);
  return trimmed === '' ? undefined : trimmed;
}

function firstBar({ piece, span }: EntryContext): Bar {
  return barOf(piece, span.from);
}

function barOf(piece: Piece, index: number): Bar {
  const bar = piece.bars[index];
  if (!bar) throw new RangeError(`bar ${index} is not written`);
  return bar;
}

function edit(value: Edit): Result<EntryAct> {
  return accepted({ kind: 'edit', edit: value });
}
