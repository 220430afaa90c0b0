import {
  COUNT_OFF_STYLES,
  COUNT_SCHOOLS,
  MAX_BARS,
  MAX_CORRECTIONS,
  MAX_COUNT_OFF_BARS,
  MAX_REPEAT_TIMES,
  MAX_TEXT_LENGTH,
  PIECE_FORMAT,
  PIECE_FORMAT_VERSION,
  MAX_SECTIONS,
  SECTION_ACTS,
  TEMPO_RETURNS,
} from '@anchorbeat/core';

function text(description: string, maxLength: number = MAX_TEXT_LENGTH) {
  return { type: 'string', maxLength, description };
}

function sign(description: string) {
  return { const: true, description };
}

function record(properties: Readonly<Record<string, object>>, required: readonly string[] = []) {
  return {
    type: 'object',
    additionalProperties: false,
    properties,
    ...(required.length > 0 && { required }),
  };
}

const at = text('Whole notes from the barline, such as 1/4; left out: the barline itself');

const tempoMark = record({
  at,
  term: text('The printed word'),
  tempo: text('Beat unit = beats a minute: dotted quarter = 66'),
  equivalence: text(
    'Note before = note after: triplet eighth = sixteenth. Where both stand, this is what sounds',
  ),
  returns: { enum: [...TEMPO_RETURNS] },
  ramp: text(
    'A rit. or accel. from here on: even per beat to quarter = 60, even ratio to half as fast, even per second to a tempo',
  ),
  endsRamp: sign('The ramp under way ends here; it also ends at any mark that says something about tempo'),
});

const hold = record(
  {
    at,
    kind: { enum: ['hold', 'breath'], description: 'Left out: a hold' },
    length: text('2 beats, 1.5 seconds, until cued'),
    value: text('The held note; left out: to the end of the beat'),
  },
  ['length'],
);

const bar = record({
  meter: text('4/4, 7/8 as 2+2+3, (2+2+3)/8, 3/4+3/8. Left out: as in the bar before'),
  label: {
    type: ['string', 'null'],
    maxLength: MAX_TEXT_LENGTH,
    description: 'Where the printed number does not count on',
  },
  pickup: text('Keeps only the end of its full bar, so many whole notes long: 1/8'),
  cutTo: text('Keeps only the start of its full bar, so many whole notes long: 5/8'),
  rehearsalMark: text('At the start of the bar'),
  tempo: { type: 'array', items: tempoMark, description: 'In order of position' },
  holds: { type: 'array', items: hold },
  startsRepeat: sign('The repeated stretch begins here'),
  endsRepeat: {
    anyOf: [{ type: 'integer', minimum: 2, maximum: MAX_REPEAT_TIMES }, { const: 'until cued' }],
    description: 'How often the stretch is played in all',
  },
  ending: text('Passes on which this bar is played: 1, or 1, 3. Neighbours with the same are one ending'),
  segno: sign('At the start of the bar'),
  coda: sign('At the start of the bar'),
  toCoda: sign('At the end of the bar, after a jump'),
  fine: sign('At the end of the bar, after a jump'),
  jump: text('At the end of the bar: D.C., D.S., D.C. al fine, D.S. al coda'),
  pulse: text('How it is beaten: in 2, or q q e. Left out: as its meter is'),
  rhythm: text('Its notes: q e. s rq h~ with r before a rest and ~ after a tied note', 2000),
  answers: {
    type: 'array',
    items: record(
      {
        check: text('Id of the check'),
        reason: text('Why it is meant'),
        about: text('The place as it was', 4000),
      },
      ['check', 'reason', 'about'],
    ),
  },
  sections: {
    type: 'array',
    description: 'What sections do from this bar on, at most one mark a section',
    items: record(
      {
        section: text('Its name'),
        does: { enum: [...SECTION_ACTS] },
        says: text('For the player: after the drum'),
      },
      ['section', 'does'],
    ),
  },
  note: text('A word to the ensemble'),
  countOff: {
    ...record({
      bars: { type: 'integer', minimum: 0, maximum: MAX_COUNT_OFF_BARS, description: 'Left out: 1' },
      school: { enum: COUNT_SCHOOLS.map((school) => school.id) },
      style: { enum: COUNT_OFF_STYLES.map((style) => style.id) },
      breathOnLastBeat: sign('The last beat is left open'),
      cueWord: text('Spoken on the last beat'),
      firstNote: { type: 'integer', minimum: 0, maximum: 127, description: 'First note of the entry, MIDI' },
    }),
    description: 'How this bar is counted in; left out: plainly, one bar',
  },
});

/**
 * The piece format, version 1, as JSON Schema (draft 2020-12). The core checks more: that groups sum, that marks lie
 * in their bar, that words and numbers read.
 */
export const PIECE_SCHEMA = {
  title: 'Anchorbeat piece, version 1',
  ...record(
    {
      format: { const: PIECE_FORMAT },
      version: { const: PIECE_FORMAT_VERSION },
      title: { ...text('Its name'), minLength: 1 },
      subtitle: text('Movement, or whatever stands under the title'),
      composer: text('As printed'),
      key: text('Tonic and mode, such as D minor'),
      style: text('Period or style'),
      sections: {
        type: 'array',
        maxItems: MAX_SECTIONS,
        uniqueItems: true,
        items: { ...text('A section of the ensemble'), minLength: 1 },
      },
      corrections: {
        type: 'array',
        maxItems: MAX_CORRECTIONS,
        items: record(
          {
            place: text('The place as it was named then: bar 31'),
            was: text('What stood there'),
            is: text('What stands there now'),
            why: text('The reason'),
            spottedBy: text('The section that saw it'),
            on: { type: 'string', pattern: '^\\d{4}-\\d\\d-\\d\\d$' },
          },
          ['on'],
        ),
      },
      takesRepeatsAfterJump: sign('Inner repeats are taken again after a D.C. or D.S.'),
      bars: { type: 'array', minItems: 1, maxItems: MAX_BARS, items: bar },
    },
    ['format', 'version', 'title', 'bars'],
  ),
} as const;
