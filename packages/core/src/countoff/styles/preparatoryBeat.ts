import type { CountOffStyle } from '../style.ts';

/** Nothing is heard: only the beat before the entry is conducted. */
export const preparatoryBeat: CountOffStyle = {
  id: 'preparatory-beat',
  name: 'Silent preparatory beat only',
  plan: (beats) => beats.map((beat) => ({ ...beat, word: '', sound: 'silent' })),
};
