import type { CountOffStyle } from '../style.ts';

/** "ready, go" on the last two beats: "1 2 ready go". */
export const readyGo: CountOffStyle = {
  id: 'ready-go',
  name: '“Ready, go” on the last two',
  tellsEnd: true,
  plan: (beats) =>
    beats.map((beat, index) => {
      const fromEnd = beats.length - index;
      return fromEnd <= 2 && beats.length >= 2 ? { ...beat, word: fromEnd === 2 ? 'ready' : 'go' } : beat;
    }),
};
