import { formatEnding, formatJump } from '../piece/barText.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { barAt, withBar } from './bars.ts';
import type { EditKind, RouteSigns } from './edit.ts';

/** Sets all signs of a bar that steer the route; what is left out is taken away. */
export const setSigns: EditKind<'setSigns'> = (piece, { bar: index, signs }) => {
  const { startsRepeat: _s, endsRepeat: _e, ending: _p, navigation: _n, ...bar } = barAt(piece, index);
  const name = barName(barLabels(piece), index);
  return withBar(piece, index, { ...bar, ...signs }, `${name}: ${signWords(signs)}`);
};

/** The signs in words: "repeat opens, first ending 1". */
function signWords({ startsRepeat, endsRepeat, ending, navigation }: RouteSigns): string {
  const words = [
    startsRepeat && 'repeat opens',
    ending && `ending ${formatEnding(ending)}`,
    endsRepeat !== undefined &&
      (endsRepeat === 'until cued' ? 'repeat until cued' : `repeat closes, ${endsRepeat} times`),
    navigation?.segno && 'segno',
    navigation?.coda && 'coda',
    navigation?.toCoda && 'to coda',
    navigation?.fine && 'fine',
    navigation?.jump && formatJump(navigation.jump),
  ].filter(Boolean);
  return words.join(', ') || 'no signs';
}
