import { compare } from '../fraction/fraction.ts';
import { meterLength, type Meter } from '../meter/meter.ts';
import { formatMeter } from '../meter/text.ts';
import { barLabels, barName } from '../piece/labels.ts';
import type { Bar } from '../piece/piece.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import { chosenBeatsMaybe } from '../pulse/choice.ts';
import { barAt, spanName, standsOutside } from './bars.ts';
import type { EditKind } from './edit.ts';

/** Gives bars a meter. A partial bar stays one where it still fits; a mark that would fall outside is a refusal. */
export const setMeter: EditKind<'setMeter'> = (piece, { from, count, meter }) => {
  const was = formatMeter(barAt(piece, from).meter);
  const bars = [...piece.bars];
  for (let index = from; index < from + count; index++) {
    const changed = remetered(barAt(piece, index), meter, () => barName(barLabels(piece), index));
    if (!changed.ok) return changed;
    bars[index] = changed.value;
  }
  const verb = count === 1 ? 'is' : 'are';
  return accepted({
    piece: { ...piece, bars },
    says: `${spanName(piece, { from, count })} ${verb} now ${formatMeter(meter)}, was ${was}`,
  });
};

function remetered(bar: Bar, meter: Meter, name: () => string): Result<Bar> {
  const { partial, pulse } = bar;
  const length = meterLength(meter);
  const stillPartial = partial && compare(partial.lengthWholes, length) < 0 ? partial : undefined;
  const end = stillPartial?.lengthWholes ?? length;
  if (standsOutside(bar, end)) {
    return refused(
      `In ${formatMeter(meter)} the tempo mark or hold inside ${name()} would fall outside it: move or delete it first`,
    );
  }
  const stillPulse = pulse && chosenBeatsMaybe(meter, pulse) ? pulse : undefined;
  return accepted({ ...bar, meter, partial: stillPartial, pulse: stillPulse });
}
