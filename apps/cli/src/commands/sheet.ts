import { sectionsOf } from '@anchorbeat/core';
import {
  joined,
  PAPER_NAMES,
  PLAIN_SHEET,
  sheetDocument,
  SHEETS,
  writePdf,
  type SheetSettings,
} from '@anchorbeat/sheets';
import { argument, CommandError, type Command } from '../command.ts';
import { LINE_OPTIONS, lineSettings, oneOf, shippedFonts } from '../sheetOptions.ts';

const KINDS = SHEETS.map(({ id }) => id);

/** Sheets for stands and for the director, as PDF. */
export const sheet: Command = {
  name: 'sheet',
  usage: 'sheet IN out.pdf [--sheet=count-sheet] [--section=NAME|all] [--paper=A4] [--sideways]',
  says: `a sheet to print (${KINDS.join(', ')}); also --from=BAR --to=BAR --count=SCHOOL --pulse=hops|slashes|counts --type=usual|big --room --two`,
  options: {
    ...LINE_OPTIONS,
    sheet: { type: 'string' },
    paper: { type: 'string' },
    sideways: { type: 'boolean' },
    room: { type: 'boolean' },
    two: { type: 'boolean' },
  },
  run: async (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the PDF file to write');
    if (!/\.pdf$/i.test(out)) throw new CommandError(`${out} is no PDF file: name it out.pdf`);
    const { options } = context;
    const kind = oneOf(options, 'sheet', KINDS, KINDS[0] ?? '');
    const sheetKind = SHEETS.find(({ id }) => id === kind) ?? SHEETS[0];
    const settings: SheetSettings = {
      ...lineSettings(context, proof),
      paper: oneOf(options, 'paper', PAPER_NAMES, PLAIN_SHEET.paper),
      isSideways: options['sideways'] === true,
      hasRoomToWrite: options['room'] === true,
      twoToAPage: options['two'] === true,
    };
    const isForAll = options['section'] === 'all' && sheetKind.hears.includes('section');
    const document = isForAll
      ? joined(
          proof.piece.title,
          sectionsOf(proof.piece).map((section) => sheetDocument(sheetKind, proof, { ...settings, section })),
        )
      : sheetDocument(sheetKind, proof, settings);
    context.write(out, [await writePdf(document, await shippedFonts(context))]);
    return 0;
  },
};
