import type { CountOffStyle } from './style.ts';
import { halfTimeFirst } from './styles/halfTimeFirst.ts';
import { plain } from './styles/plain.ts';
import { preparatoryBeat } from './styles/preparatoryBeat.ts';
import { readyGo } from './styles/readyGo.ts';
import { rhythmicPitch } from './styles/rhythmicPitch.ts';
import { subdividedLast } from './styles/subdividedLast.ts';

/** Every style of counting off, listed once; the first is the default. */
export const COUNT_OFF_STYLES: readonly CountOffStyle[] = [
  plain,
  readyGo,
  halfTimeFirst,
  subdividedLast,
  rhythmicPitch,
  preparatoryBeat,
];

export function countOffStyleMaybe(id: string): CountOffStyle | null {
  return COUNT_OFF_STYLES.find((style) => style.id === id) ?? null;
}
