import { Worker } from 'node:worker_threads';
import { compilePiece, pieceSeconds, readPiece } from '@anchorbeat/core';
import { barTable, midi, musicXml, pieceJson } from '@anchorbeat/formats';
import { fullPiece } from './core.mjs';
import { show, summary, timed } from './measure.mjs';

const BARS = 2000;
const HUNDRED_PARTS = 100;
const MB = 1024 * 1024;

export async function benchFormats() {
  const piece = fullPiece(BARS);
  for (const format of [pieceJson, barTable, musicXml, midi]) {
    const file = format.write(piece);
    const size = `${(file.length / MB).toFixed(2)} MB`;
    const few = { runs: 5, warmUp: 1 };
    show(
      `write ${BARS} bars as ${format.name}`,
      timed(() => format.write(piece), few),
      size,
    );
    show(
      `read ${BARS} bars from ${format.name}`,
      timed(() => format.read(file), few),
    );
  }
  const orchestra = orchestraScore();
  const before = process.memoryUsage().rss;
  let most = before;
  const large = timed(
    () => {
      musicXml.read(orchestra, () => (most = Math.max(most, process.memoryUsage().rss)));
    },
    { runs: 3, warmUp: 0 },
  );
  const grown = `${Math.round((most - before) / MB)} MB more memory at most`;
  show(`read a score of ${(orchestra.length / MB).toFixed(1)} MB, ${HUNDRED_PARTS} parts`, large, grown);
  await benchRendering({ format: 'wav' }, 'wanted: under 2,000 ms');
  await benchRendering({ format: 'flac' }, '');
  await benchRendering({ format: 'mp3' }, '');
}

/** A hundred parts of plain bars: what a large orchestra's file is made of. */
function orchestraScore() {
  const note =
    '<note><pitch><step>C</step><octave>4</octave></pitch><duration>1</duration><voice>1</voice><type>quarter</type><stem>up</stem></note>';
  const attributes =
    '<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
  const measures = Array.from(
    { length: 400 },
    (_, index) =>
      `<measure number="${index + 1}">${index === 0 ? attributes : ''}${note.repeat(4)}</measure>`,
  ).join('');
  const parts = Array.from(
    { length: HUNDRED_PARTS },
    (_, index) => `<part id="P${index}">${measures}</part>`,
  );
  return new TextEncoder().encode(`<score-partwise>${parts.join('')}</score-partwise>`);
}

/** Ten minutes of click to a sound file in a thread of its own, from the piece to the file's bytes, the start of the thread with it. */
async function benchRendering(wishes, wanted) {
  const bars = Array.from({ length: 300 }, (_, index) => ({
    ...(index === 0 && { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }),
  }));
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Ten minutes', bars });
  const seconds = pieceSeconds(compilePiece(reading.piece).timeline);
  const times = [];
  for (let run = 0; run < 5; run++) {
    const start = performance.now();
    const worker = new Worker(new URL('./renderWorker.mjs', import.meta.url), {
      workerData: { piece: reading.piece, wishes },
    });
    await new Promise((resolve, reject) => worker.once('message', resolve).once('error', reject));
    times.push(performance.now() - start);
    await worker.terminate();
  }
  show(`render ${seconds / 60} minutes of click as ${wishes.format} in a worker`, summary(times), wanted);
}
