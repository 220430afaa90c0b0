import { formatMeter } from '../../meter/text.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import { statedRate } from '../../tempo/tempoMark.ts';
import { isStyle, STYLES, styleCost, styleWords } from '../groupingStyles.ts';
import {
  decimal,
  groupedMeter,
  refusalOf,
  smallPiece,
  typedCount,
  typedGroups,
  typedTempo,
  UNIT_CHOICES,
  type BenchAnswer,
  type BenchTool,
  type Typed,
} from '../tool.ts';

const SIZES = [2, 3, 4] as const;
const MOST_UNITS = 24;

/** Every row of twos, threes and fours that makes a number, in the order of its first groups. */
export function groupingsOf(units: number): ReadonlyArray<readonly number[]> {
  const known: Array<ReadonlyArray<readonly number[]>> = [[[]]];
  for (let total = 1; total <= units; total++)
    known.push(
      SIZES.flatMap((size) =>
        size > total ? [] : (known[total - size] ?? []).map((rest) => [size, ...rest]),
      ),
    );
  return known[units] ?? [];
}

/** So many groups as even as they can be, what is over in the last ones: 16 by 5 is 3+3+3+3+4, by 3 is 5+5+6. */
export function evenGroups(units: number, groups: number): readonly number[] {
  const size = Math.floor(units / groups);
  const over = units - size * groups;
  return Array.from({ length: groups }, (_, index) => size + (index >= groups - over ? 1 : 0));
}

/** Where groups begin, in units from the barline. */
export function groupStarts(groups: readonly number[]): readonly number[] {
  let at = 0;
  return groups.map((group) => {
    const start = at;
    at += group;
    return start;
  });
}

/** How far group starts lie from even ones, in units, on average: 0 is even. */
function unevenness(groups: readonly number[]): number {
  const units = groups.reduce((sum, group) => sum + group, 0);
  const starts = groupStarts(groups);
  return (
    starts.reduce((sum, start, index) => sum + Math.abs(start - (index * units) / groups.length), 0) /
    groups.length
  );
}

/** Strong places that one bar has and another has not, counted both ways, as far as the shorter goes. */
export function changedPlaces(groups: readonly number[], beside: readonly number[]): number {
  const [a, b] = [new Set(groupStarts(groups)), new Set(groupStarts(beside))];
  const length = Math.min(...[groups, beside].map((row) => row.reduce((sum, group) => sum + group, 0)));
  let changed = 0;
  for (let at = 0; at < length; at++) if (a.has(at) !== b.has(at)) changed++;
  return changed;
}

const GROUPING_ORDERS = ['even', 'short first', 'long first', 'like its neighbour', ...STYLES] as const;
type GroupingOrder = (typeof GROUPING_ORDERS)[number];

/** All groupings, the best in an order first. */
function orderedGroupings(
  units: number,
  order: GroupingOrder,
  beside: readonly number[] | null,
): ReadonlyArray<readonly number[]> {
  const cost = (groups: readonly number[]): number => {
    const ascents = groups.filter((group, index) => index > 0 && group > (groups[index - 1] ?? 0)).length;
    const descents = groups.filter((group, index) => index > 0 && group < (groups[index - 1] ?? 0)).length;
    if (isStyle(order)) return styleCost(groups, order);
    switch (order) {
      case 'even':
        return unevenness(groups);
      case 'short first':
        return descents * 10 - ascents + groups.length / 100;
      case 'long first':
        return ascents * 10 - descents + groups.length / 100;
      case 'like its neighbour':
        return beside ? changedPlaces(groups, beside) : unevenness(groups);
    }
  };
  const spread = (groups: readonly number[]) => new Set(groups).size + groups.length / 100;
  return groupingsOf(units)
    .map((groups) => ({ groups, cost: cost(groups), spread: spread(groups) }))
    .sort((a, b) => a.cost - b.cost || a.spread - b.spread)
    .map(({ groups }) => groups);
}

const MOST_SHOWN = 12;

function work(typed: Typed): Result<BenchAnswer> {
  const units = typedCount(typed, 'units', 2, MOST_UNITS);
  const unit = typedCount(typed, 'unit', 2, 32);
  const tempo = typedTempo(typed);
  const isAlone = (typed['beside'] ?? '').trim() === '';
  const beside = isAlone ? accepted(null) : typedGroups(typed, 'beside');
  const order = GROUPING_ORDERS.find((known) => known === (typed['order'] ?? '').trim());
  const refusal = refusalOf(units, unit, tempo, beside);
  if (refusal) return refusal;
  if (!order) return refused(`The order is one of: ${GROUPING_ORDERS.join(', ')}`, { field: 'order' });
  if (!units.ok || !unit.ok || !tempo.ok || !beside.ok) return refused('Nothing to work on');
  if (![2, 4, 8, 16, 32].includes(unit.value))
    return refused('The unit is 2, 4, 8, 16 or 32', { field: 'unit' });
  const all = orderedGroupings(units.value, order, beside.value);
  const best = all[0];
  if (!best) return refused(`${units.value} cannot be made of twos, threes and fours`, { field: 'units' });
  const meter = groupedMeter(best, unit.value);
  const withRest = Array.from(
    { length: Math.min(6, Math.max(1, Math.floor(units.value / 2) - 1)) },
    (_, index) => evenGroups(units.value, index + 2),
  );
  return accepted({
    says: [
      `${best.join('+')} comes first of ${all.length}: ${formatMeter(meter)}, strong on ${groupStarts(best)
        .map((at) => at + 1)
        .join(', ')}`,
      ...(isStyle(order) ? [styleWords(order)] : []),
      `As even as so many groups can be: ${withRest.map((groups) => groups.join('+')).join(', ')}`,
      `Two even notes over ${units.value}: on 1 and ${decimal(1 + units.value / 2, 1)}`,
      `Turned round: ${rotations(best).join(', ')}`,
    ],
    table: {
      head: ['groups', 'begin on', 'units from even', ...(beside.value ? ['changed places'] : [])],
      rows: all.slice(0, MOST_SHOWN).map((groups) => [
        groups.join('+'),
        groupStarts(groups)
          .map((at) => at + 1)
          .join(' '),
        decimal(unevenness(groups), 3),
        ...(beside.value ? [String(changedPlaces(groups, beside.value))] : []),
      ]),
    },
    heard: {
      piece: smallPiece(
        'Groupings',
        statedRate(tempo.value),
        all.slice(0, 2).map((groups) => ({ meter: groupedMeter(groups, unit.value) })),
      ),
    },
    sends: [
      {
        label: `${formatMeter(meter)} in the selected bars`,
        editFor: (_, span) => accepted({ kind: 'setMeter', ...span, meter }),
      },
    ],
  });
}

/** Each way to begin the row of groups at another of them, without doubles. */
function rotations(groups: readonly number[]): readonly string[] {
  const turned = groups.map((_, index) => [...groups.slice(index), ...groups.slice(0, index)].join('+'));
  return [...new Set(turned)];
}

export const grouping: BenchTool = {
  id: 'grouping',
  name: 'Grouping',
  says: 'Every way to beat a number of small notes in twos, threes and fours, the best first, and with what is left over.',
  fields: [
    { id: 'units', label: 'Small notes', usual: '11', hint: `2 to ${MOST_UNITS}` },
    { id: 'unit', label: 'Each a', usual: '8', hint: '8 for eighths', choices: UNIT_CHOICES },
    { id: 'order', label: 'First', usual: 'even', hint: 'in which order', choices: GROUPING_ORDERS },
    { id: 'beside', label: 'Beside a bar of', usual: '3+3+3+2', hint: '3+3+2, or nothing' },
    { id: 'tempo', label: 'Tempo', usual: 'q = 96', hint: 'q = 96' },
  ],
  work,
};
