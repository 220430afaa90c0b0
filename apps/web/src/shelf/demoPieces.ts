import { readPiece, type Piece } from '@anchorbeat/core';

/** In the order of the demo's programme; each is loaded when the demo is asked for. */
const FILES = [
  () => import('../../../../demo/slack-water.anchorbeat.json', { with: { type: 'json' } }),
  () => import('../../../../demo/ropewalk.anchorbeat.json', { with: { type: 'json' } }),
  () => import('../../../../demo/ebb-count.anchorbeat.json', { with: { type: 'json' } }),
  () => import('../../../../demo/tar-and-twine.anchorbeat.json', { with: { type: 'json' } }),
  () => import('../../../../demo/lamp-on-the-bar.anchorbeat.json', { with: { type: 'json' } }),
] as const;

/** The pieces of an invented band, to look around in. */
export async function demoPieces(): Promise<readonly Piece[]> {
  const documents = await Promise.all(FILES.map((load) => load()));
  return documents.map((module) => {
    const reading = readPiece(module.default);
    if (!reading.ok)
      throw new Error(`A piece of the demo does not read: ${reading.problems[0]?.message ?? ''}`);
    return reading.piece;
  });
}
