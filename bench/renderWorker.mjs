import { parentPort, workerData } from 'node:worker_threads';
import { renderSamples } from '@anchorbeat/audio';
import { compilePiece, paperRun, PLAIN_RUN } from '@anchorbeat/core';
import { writeWav } from '@anchorbeat/formats';

const source = { piece: workerData, compiled: compilePiece(workerData) };
const plan = paperRun(source, { ...PLAIN_RUN, clickOn: 'subdivision' });
parentPort.postMessage(writeWav(renderSamples(plan, 44_100), { sampleRate: 44_100, bits: 16 }).length);
