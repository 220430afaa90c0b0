import type { CountOffStyle } from '../style.ts';

export const plain: CountOffStyle = { id: 'plain', name: 'The count, plainly', plan: (beats) => beats };
