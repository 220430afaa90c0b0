import { parentPort, workerData } from 'node:worker_threads';
import { joined, soundFile, soundTrack } from '@anchorbeat/audio';
import { paperSounds, proofOf } from '@anchorbeat/core';

const wishes = {
  format: 'wav',
  sampleRate: 44_100,
  bits: 16,
  percent: 100,
  clickOn: 'subdivision',
  spoken: 'count-off',
  channels: 'one',
  ...workerData.wishes,
};
const sounds = paperSounds(proofOf(workerData.piece), { kind: 'piece' }, wishes);
const { parts } = await soundFile(soundTrack(sounds.value, wishes).value, wishes);
parentPort.postMessage(joined(parts).length);
