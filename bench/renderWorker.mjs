import { parentPort, workerData } from 'node:worker_threads';
import { joined, soundFile } from '@anchorbeat/audio';
import { proofOf } from '@anchorbeat/core';

const wishes = { sampleRate: 44_100, bits: 16, percent: 100, clickOn: 'subdivision', spoken: 'count-off' };
const sound = soundFile(proofOf(workerData), wishes);
parentPort.postMessage(joined(sound.value.parts).length);
