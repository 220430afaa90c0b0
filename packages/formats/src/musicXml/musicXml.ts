import type { FileFormat } from '../format.ts';
import { readMusicXml } from './readMusicXml.ts';
import { writeMusicXml } from './writeMusicXml.ts';

/** MusicXML 1.0 to 4.0, plain and compressed; written as 4.0. */
export const musicXml: FileFormat = {
  id: 'musicxml',
  name: 'MusicXML',
  endings: ['.musicxml', '.xml', '.mxl'],
  mediaType: 'application/vnd.recordare.musicxml+xml',
  read: readMusicXml,
  write: writeMusicXml,
};
