import { formatEnding, formatJump, parseEnding, parseJump } from '../../piece/barText.ts';
import { MAX_REPEAT_TIMES } from '../../piece/piece.ts';
import { never, type BarField } from './barField.ts';

const ROUTE = { toldWith: 'signs', staysLocal: never, inShorthand: true } as const;

export const startsRepeatField: BarField<'startsRepeat'> = {
  ...ROUTE,
  names: ['startsRepeat'],
  read: ({ reader, fields, path }) => reader.flag(fields, 'startsRepeat', path) || undefined,
  write: () => ({ startsRepeat: true }),
  words: ({ startsRepeat }) => (startsRepeat ? 'repeat opens' : ''),
};

export const endsRepeatField: BarField<'endsRepeat'> = {
  ...ROUTE,
  names: ['endsRepeat'],
  read: ({ reader, fields, path }) => {
    const value = fields['endsRepeat'];
    if (value === 'until cued') return value;
    const isCount = typeof value === 'number' && Number.isInteger(value);
    if (isCount && value >= 2 && value <= MAX_REPEAT_TIMES) return value;
    const message = `A repeat is played 2 to ${MAX_REPEAT_TIMES} times in all, or "until cued"`;
    reader.refuse(`${path}.endsRepeat`, value, message);
    return undefined;
  },
  write: (endsRepeat) => ({ endsRepeat }),
  words: ({ endsRepeat }) => {
    if (endsRepeat === undefined) return '';
    return endsRepeat === 'until cued' ? 'repeat until cued' : `repeat closes, ${endsRepeat} times`;
  },
};

/** The passes on which a bar is played. */
export const endingField: BarField<'ending'> = {
  ...ROUTE,
  names: ['ending'],
  read: ({ reader, fields, path }) => reader.parsedField(fields, 'ending', path, parseEnding),
  write: (ending) => ({ ending: formatEnding(ending) }),
  words: ({ ending }) => (ending ? `ending ${ending}` : ''),
};

const SIGNS = ['segno', 'coda', 'toCoda', 'fine'] as const;

export const navigationField: BarField<'navigation'> = {
  ...ROUTE,
  names: [...SIGNS, 'jump'],
  read: ({ reader, fields, path }) => {
    const signs = SIGNS.flatMap((name) => (reader.flag(fields, name, path) ? [[name, true] as const] : []));
    const jump = reader.parsedField(fields, 'jump', path, parseJump);
    if (signs.length === 0 && !jump) return undefined;
    return { ...Object.fromEntries(signs), ...(jump && { jump }) };
  },
  write: ({ jump, ...signs }) => ({ ...signs, ...(jump && { jump: formatJump(jump) }) }),
  words: ({ segno, coda, toCoda, fine, jump }) =>
    [segno && 'segno', coda && 'coda', toCoda && 'to coda', fine && 'fine', jump].filter(Boolean).join(', '),
};
