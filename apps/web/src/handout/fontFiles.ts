import text from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import textExtended from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff?url';
import textBold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import textBoldExtended from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff?url';
import textItalic from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-italic.woff?url';
import textItalicExtended from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-italic.woff?url';
import display from '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-500-normal.woff?url';
import displayExtended from '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-ext-500-normal.woff?url';
import displayBold from '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-800-normal.woff?url';
import displayBoldExtended from '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-ext-800-normal.woff?url';
import textCyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff?url';
import textGreek from '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?url';
import textBoldCyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-700-normal.woff?url';
import textBoldGreek from '@fontsource/noto-sans/files/noto-sans-greek-700-normal.woff?url';
import textItalicCyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-400-italic.woff?url';
import textItalicGreek from '@fontsource/noto-sans/files/noto-sans-greek-400-italic.woff?url';
import displayCyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-500-normal.woff?url';
import displayGreek from '@fontsource/noto-sans/files/noto-sans-greek-500-normal.woff?url';
import displayBoldCyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-800-normal.woff?url';
import displayBoldGreek from '@fontsource/noto-sans/files/noto-sans-greek-800-normal.woff?url';
import { sheetFonts, type FaceId, type FontKind, type SheetFonts } from '@anchorbeat/sheets';

/** Addresses of the files of every face. */
const ADDRESSES: Readonly<Record<FaceId, Readonly<Record<FontKind, string>>>> = {
  text: { plain: text, extended: textExtended, cyrillic: textCyrillic, greek: textGreek },
  'text-bold': {
    plain: textBold,
    extended: textBoldExtended,
    cyrillic: textBoldCyrillic,
    greek: textBoldGreek,
  },
  'text-italic': {
    plain: textItalic,
    extended: textItalicExtended,
    cyrillic: textItalicCyrillic,
    greek: textItalicGreek,
  },
  display: { plain: display, extended: displayExtended, cyrillic: displayCyrillic, greek: displayGreek },
  'display-bold': {
    plain: displayBold,
    extended: displayBoldExtended,
    cyrillic: displayBoldCyrillic,
    greek: displayBoldGreek,
  },
};

/** The type that sheets are set in; it is fetched when the first one is made. */
export function fetchSheetFonts(): Promise<SheetFonts> {
  return sheetFonts(async (face, kind) => {
    const response = await fetch(ADDRESSES[face][kind]);
    if (!response.ok) throw new Error('its type could not be loaded: is the server there?');
    return new Uint8Array(await response.arrayBuffer());
  });
}
