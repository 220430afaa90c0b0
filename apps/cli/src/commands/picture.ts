import { linePicture, pageSvg, type SheetPage } from '@anchorbeat/sheets';
import { initWasm, Resvg } from '@resvg/resvg-wasm';
import { argument, CommandError, numberOption, type Command, type CommandContext } from '../command.ts';
import { letterOutlines } from '../letterOutlines.ts';
import { LINE_OPTIONS, lineSettings, shippedFonts } from '../sheetOptions.ts';

const NARROWEST_PT = 200;
const WIDEST_PT = 4000;
const isWidth = (value: number): value is number => value >= NARROWEST_PT && value <= WIDEST_PT;

/** The line of some bars as a picture. */
export const picture: Command = {
  name: 'picture',
  usage: 'picture IN out.svg|out.png [--from=BAR] [--to=BAR] [--section=NAME] [--width=960]',
  says: 'the line of the piece or of some bars as a picture, SVG or PNG, for a slide or a message',
  options: { ...LINE_OPTIONS, width: { type: 'string' } },
  run: async (context) => {
    const proof = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the picture to write');
    const make = MADE_BY_ENDING[/\.[^.]*$/.exec(out)?.[0].toLowerCase() ?? ''];
    if (!make) throw new CommandError(`${out} is no SVG or PNG picture: name it out.svg or out.png`);
    const page = linePicture(
      proof,
      lineSettings(context, proof),
      numberOption(context, 'width', 960, isWidth),
    );
    context.write(out, [await make(page, context)]);
    return 0;
  },
};

const MADE_BY_ENDING: Readonly<
  Record<string, (page: SheetPage, context: CommandContext) => Promise<Uint8Array>>
> = {
  '.svg': async (page, context) => new TextEncoder().encode(pageSvg(page, await shippedFonts(context))),
  '.png': async (page, context) => {
    await (rasteriser ??= initWasm(context.packageFile('@resvg/resvg-wasm/index_bg.wasm')));
    const svg = pageSvg(page, letterOutlines(await shippedFonts(context)));
    return new Resvg(svg, { fitTo: { mode: 'zoom', value: PNG_PIXELS_A_POINT } }).render().asPng();
  },
};

/** Sharp on a screen of many pixels, as the app's own. */
const PNG_PIXELS_A_POINT = 2;
let rasteriser: Promise<void> | null = null;
