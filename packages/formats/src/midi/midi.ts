import type { FileFormat } from '../format.ts';
import { readMidi } from './readMidi.ts';
import { writeMidi } from './writeMidi.ts';

/** Standard MIDI files, read in format 0 and 1, written in format 1 as performed. */
export const midi: FileFormat = {
  id: 'midi',
  name: 'MIDI',
  endings: ['.mid', '.midi', '.kar', '.rmi'],
  mediaType: 'audio/midi',
  read: readMidi,
  write: writeMidi,
};
