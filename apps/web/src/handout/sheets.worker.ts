import { proofOf, sayNotesIn } from '@anchorbeat/core';
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

async function made({ order, fonts, noteNames }: SheetWork): Promise<Uint8Array<ArrayBuffer>> {
  sayNotesIn(noteNames);
  const progress = (share: number) => answer({ kind: 'progress', share });
  if (order.kind === 'pages') return writePdf(order.document, fonts, progress);
  const proof = proofOf(order.piece);
  if (order.kind === 'pdf') return writePdf(chosenDocument(proof, order.choice), fonts, progress);
  const { reader, settings } = order.choice;
  const section = typeof reader === 'object' ? reader.section : null;
  const page = linePicture(proof, { ...settings, section }, PICTURE_WIDTH_PT);
  return new TextEncoder().encode(pageSvg(page, fonts));
}
