import { linePicture, pageSvg } from '@anchorbeat/sheets';
import { argument, CommandError, numberOption, type Command } from '../command.ts';
import { LINE_OPTIONS, lineSettings, shippedFonts } from '../sheetOptions.ts';

const NARROWEST_PT = 200;
const WIDEST_PT = 4000;
const isWidth = (value: number): value is number => value >= NARROWEST_PT && value <= WIDEST_PT;

/** The line of some bars as a picture. */
export const picture: Command = {
  name: 'picture',
  usage: 'picture IN out.svg [--from=BAR] [--to=BAR] [--section=NAME] [--width=960]',
  says: 'the line of the piece or of some bars as an SVG picture, for a slide or a message',
  options: { ...LINE_OPTIONS, width: { type: 'string' } },
  run: async (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the picture to write');
    if (!/\.svg$/i.test(out)) throw new CommandError(`${out} is no SVG picture: name it out.svg`);
    const page = linePicture(
      proof,
      lineSettings(context, proof),
      numberOption(context, 'width', 960, isWidth),
    );
    context.write(out, [new TextEncoder().encode(pageSvg(page, await shippedFonts(context)))]);
    return 0;
  },
};
