import { MAX_BARS, MAX_TEXT_LENGTH, PIECE_FORMAT, PIECE_FORMAT_VERSION } from '@anchorbeat/core';

const text = { type: 'string', maxLength: MAX_TEXT_LENGTH } as const;

/** The piece format, version 1, as JSON Schema. The core checks more: that groups sum and marks lie in their bar. */
export const PIECE_SCHEMA = {
  type: 'object',
  title: 'Anchorbeat piece',
  required: ['format', 'version', 'title', 'bars'],
  additionalProperties: false,
  properties: {
    format: { const: PIECE_FORMAT },
    version: { const: PIECE_FORMAT_VERSION },
    title: { ...text, minLength: 1 },
    subtitle: text,
    composer: text,
    bars: {
      type: 'array',
      minItems: 1,
      maxItems: MAX_BARS,
      items: {
        type: 'object',
        additionalProperties: false,
        properties: {
          meter: {
            ...text,
            description: 'As printed: 4/4, 7/8 as 2+2+3, (2+2+3)/8, 3/4+3/8. Left out: as before',
          },
          label: {
            type: ['string', 'null'],
            maxLength: MAX_TEXT_LENGTH,
            description: 'Where it does not count on',
          },
          pickup: { ...text, description: 'Keeps only the end of its full bar, this long: 1/8' },
          cutTo: { ...text, description: 'Keeps only the start of its full bar, this long: 5/8' },
          rehearsalMark: text,
          tempo: {
            type: 'array',
            items: {
              type: 'object',
              additionalProperties: false,
              properties: {
                at: { ...text, description: 'Whole notes from the barline, such as 1/4' },
                term: text,
                tempo: { ...text, description: 'dotted quarter = 66' },
                equivalence: { ...text, description: 'Note before = note after: triplet eighth = sixteenth' },
              },
            },
          },
        },
      },
    },
  },
} as const;
