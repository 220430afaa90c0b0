import { proofOf } from '@anchorbeat/core';
import { linePicture, pageSvg, writePdf } from '@anchorbeat/sheets';
import { chosenDocument } from './sheetChoice.ts';
import type { SheetAnswer, SheetWork } from './sheetWork.ts';

/** A picture is as wide as a slide. */
const PICTURE_WIDTH_PT = 960;

self.onmessage = ({ data }: MessageEvent<SheetWork>) => {
  made(data).then(
    (bytes) => answer({ kind: 'made', bytes }),
    (error: unknown) => answer({ kind: 'failed', message: (error as Error).message }),
  );
};

function answer(said: SheetAnswer): void {
  self.postMessage(said);
}

async function made({ kind, piece, choice, fonts }: SheetWork): Promise<Uint8Array<ArrayBuffer>> {
  const proof = proofOf(piece);
  if (kind === 'pdf')
    return writePdf(chosenDocument(proof, choice), fonts, (share) => answer({ kind: 'progress', share }));
  const { reader, settings } = choice;
  const section = typeof reader === 'object' ? reader.section : null;
  return new TextEncoder().encode(
    pageSvg(linePicture(proof, { ...settings, section }, PICTURE_WIDTH_PT), fonts),
  );
}
