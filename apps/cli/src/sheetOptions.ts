import { COUNT_SCHOOLS, sectionsOf, type Proof } from '@anchorbeat/core';
import {
  FACES,
  PLAIN_SHEET,
  PULSE_DRAWINGS,
  sheetFonts,
  TYPE_SIZES,
  type SheetFonts,
  type SheetSettings,
} from '@anchorbeat/sheets';
import { CommandError, type CommandContext } from './command.ts';

/** The options that every drawing of a piece takes. */
export const LINE_OPTIONS = {
  section: { type: 'string' },
  from: { type: 'string' },
  to: { type: 'string' },
  count: { type: 'string' },
  pulse: { type: 'string' },
  type: { type: 'string' },
} as const;

/** What is printed, as the command line says it. */
export function lineSettings(context: CommandContext, proof: Proof): SheetSettings {
  const { options } = context;
  const span = {
    from: options['from'] === undefined ? 0 : barNamed(proof, 'from', String(options['from'])),
    to: options['to'] === undefined ? Infinity : barNamed(proof, 'to', String(options['to'])) + 1,
  };
  if (span.to <= span.from) throw new CommandError('--to lies before --from: nothing would be printed');
  return {
    ...PLAIN_SHEET,
    ...span,
    section: sectionNamed(proof, options['section']),
    countSchool: oneOf(
      options,
      'count',
      COUNT_SCHOOLS.map(({ id }) => id),
      PLAIN_SHEET.countSchool,
    ),
    pulse: oneOf(options, 'pulse', PULSE_DRAWINGS, PLAIN_SHEET.pulse),
    type: oneOf(options, 'type', TYPE_SIZES, PLAIN_SHEET.type),
  };
}

/** One of some words, or the usual one where the option is not there. */
export function oneOf<T extends string>(
  options: CommandContext['options'],
  name: string,
  words: readonly T[],
  usual: T,
): T {
  const text = options[name];
  if (text === undefined) return usual;
  const found = words.find((word) => word.toLowerCase() === String(text).toLowerCase());
  if (found) return found;
  throw new CommandError(`--${name} cannot be "${text}": it is one of ${words.join(', ')}`);
}

function sectionNamed({ piece }: Proof, wanted: string | boolean | undefined): string | null {
  if (wanted === undefined || wanted === 'all') return null;
  const sections = sectionsOf(piece);
  const found = sections.find((name) => name.toLowerCase() === String(wanted).toLowerCase());
  if (found !== undefined) return found;
  const known = sections.length > 0 ? `it names ${sections.join(', ')}` : 'it names none';
  throw new CommandError(`This piece has no section "${wanted}": ${known}`);
}

/** The written bar with a printed number. */
export function barNamed({ compiled }: Proof, option: string, label: string): number {
  const index = compiled.labels.indexOf(label);
  if (index >= 0) return index;
  throw new CommandError(`--${option}=${label} names no bar: write the number that is printed`);
}

/** The fonts that ship with the sheets. */
export function shippedFonts(context: CommandContext): Promise<SheetFonts> {
  return sheetFonts((face, kind) => Promise.resolve(context.packageFile(FACES[face][kind])));
}
