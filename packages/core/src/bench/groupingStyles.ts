/** Kinds of music that group small notes in a way of their own. */
export const STYLES = ['as in marches', 'as in Balkan dances', 'as in Latin cycles', 'as in jazz'] as const;
export type Style = (typeof STYLES)[number];

export function isStyle(order: string): order is Style {
  return (STYLES as readonly string[]).includes(order);
}

const WORDS: Readonly<Record<Style, string>> = {
  'as in marches': 'groups alike, else the long ones first',
  'as in Balkan dances':
    'twos with a single three, at the end of a short bar and two groups before the end of a long one; even numbers have two threes',
  'as in Latin cycles': 'threes first, the twos that are left over close the cycle',
  'as in jazz': 'the longest groups first, so that the small ones push into the next bar',
};

/** What is usual in a style, said as what it is: a convention. */
export function styleWords(style: Style): string {
  return `Usual ${style}: ${WORDS[style]}. A convention; players of it may do otherwise`;
}

/**
 * How far a grouping is from what is usual in a style: 0 is just that. These are conventions, written down from common
 * practice; no formula stands behind them.
 */
export function styleCost(groups: readonly number[], style: Style): number {
  switch (style) {
    case 'as in marches':
      return (
        4 * (new Set(groups).size - 1) + ascents(groups) + 0.5 * count(groups, 2) - 0.1 * count(groups, 4)
      );
    case 'as in Balkan dances':
      return balkanCost(groups);
    case 'as in Latin cycles':
      return 10 * count(groups, 4) + 4 * ascents(groups) + 3 * Math.abs(leftTwos(groups) - count(groups, 2));
    case 'as in jazz':
      return 4 * ascents(groups) + groups.length;
  }
}

/** Bars of more groups than this have their three before the last two. */
const SHORT_BAR_GROUPS = 4;

function balkanCost(groups: readonly number[]): number {
  const units = groups.reduce((sum, group) => sum + group, 0);
  const wanted = units % 2 === 1 ? 1 : 2;
  const threes = groups.flatMap((group, index) => (group === 3 ? [index] : []));
  const last = groups.length - 1;
  const place = groups.length > SHORT_BAR_GROUPS ? last - 2 : last;
  const off =
    wanted === 1
      ? Math.abs((threes[0] ?? 0) - place)
      : Math.abs((threes[0] ?? 0) - 0) + Math.abs((threes[1] ?? 0) - last);
  return 20 * count(groups, 4) + 10 * Math.abs(threes.length - wanted) + off;
}

/** Two twos close a cycle where the rest are threes; one or three where that does not come out. */
function leftTwos(groups: readonly number[]): number {
  const units = groups.reduce((sum, group) => sum + group, 0);
  return ((2 * units) % 3) + (units % 3 === 0 ? 3 : 0);
}

function ascents(groups: readonly number[]): number {
  return groups.filter((group, index) => index > 0 && group > (groups[index - 1] ?? 0)).length;
}

function count(groups: readonly number[], size: number): number {
  return groups.filter((group) => group === size).length;
}
