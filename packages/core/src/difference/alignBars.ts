/** How a list became another: an item kept, changed into another, taken out or put in. Indices into the two lists. */
export type Alignment =
  | { readonly kind: 'kept'; readonly before: number; readonly after: number }
  | { readonly kind: 'changed'; readonly before: number; readonly after: number }
  | { readonly kind: 'removed'; readonly before: number }
  | { readonly kind: 'added'; readonly after: number };

/** Past this many differences lists are compared place by place: they have little in common. */
const MAX_DIFFERENCES = 600;

/**
 * Matches two lists of bars, each written as a text, with as few removals and additions as can be; a removal beside
 * an addition is a change. After E. W. Myers, "An O(ND) Difference Algorithm and Its Variations" (1986).
 */
export function alignBars(before: readonly string[], after: readonly string[]): readonly Alignment[] {
  const shorter = Math.min(before.length, after.length);
  let start = 0;
  while (start < shorter && before[start] === after[start]) start++;
  let end = 0;
  while (end < shorter - start && before.at(-1 - end) === after.at(-1 - end)) end++;
  const steps = stepsBetween(
    before.slice(start, before.length - end),
    after.slice(start, after.length - end),
  );
  const middle = steps.map(({ before: b, after: a }) => ({
    before: b === null ? null : b + start,
    after: a === null ? null : a + start,
  }));
  const kept = (count: number, fromBefore: number, fromAfter: number) =>
    Array.from({ length: count }, (_, index) => ({ before: fromBefore + index, after: fromAfter + index }));
  return asAlignment([
    ...kept(start, 0, 0),
    ...middle,
    ...kept(end, before.length - end, after.length - end),
  ]);
}

/**
 * How bars became others, as somebody would tell it: where there are as many as before, bar stands for bar, unless fewer steps
 * explain it otherwise. A new meter in one bar leaves the old one to the next, which must not look like a bar put in before it.
 */
export function barSteps(before: readonly string[], after: readonly string[]): readonly Alignment[] {
  const steps = alignBars(before, after);
  if (before.length !== after.length) return steps;
  const inPlace = before.map((was, at): Alignment => {
    const kind = was === after[at] ? 'kept' : 'changed';
    return { kind, before: at, after: at };
  });
  const taken = (all: readonly Alignment[]) => all.filter(({ kind }) => kind !== 'kept').length;
  return taken(inPlace) <= taken(steps) ? inPlace : steps;
}

/** A step through both lists: null on one side where only the other moves on. */
interface Step {
  readonly before: number | null;
  readonly after: number | null;
}

function stepsBetween(before: readonly string[], after: readonly string[]): readonly Step[] {
  if (before.length === 0 || after.length === 0) return sideBySide(before, after);
  const trace = farthestReaches(before, after);
  return trace ? walkBack(trace, before.length, after.length) : sideBySide(before, after);
}

function sideBySide(before: readonly string[], after: readonly string[]): readonly Step[] {
  return [
    ...before.map((_, index) => ({ before: index, after: null })),
    ...after.map((_, index) => ({ before: null, after: index })),
  ];
}

/** For each number of differences, how far along each diagonal the lists can be followed; null where it takes too many. */
function farthestReaches(before: readonly string[], after: readonly string[]): Int32Array[] | null {
  const most = Math.min(before.length + after.length, MAX_DIFFERENCES);
  const reach = new Int32Array(2 * most + 3);
  const trace: Int32Array[] = [];
  for (let differences = 0; differences <= most; differences++) {
    trace.push(reach.slice());
    for (let diagonal = -differences; diagonal <= differences; diagonal += 2) {
      let x = nextReach(reach, most + 1 + diagonal, diagonal, differences);
      while (x < before.length && x - diagonal < after.length && before[x] === after[x - diagonal]) x++;
      reach[most + 1 + diagonal] = x;
      if (x >= before.length && x - diagonal >= after.length) return trace;
    }
  }
  return null;
}

function nextReach(reach: Int32Array, at: number, diagonal: number, differences: number): number {
  const fromBelow = reach[at + 1] ?? 0;
  const fromLeft = (reach[at - 1] ?? 0) + 1;
  if (diagonal === -differences) return fromBelow;
  if (diagonal === differences) return fromLeft;
  return Math.max(fromLeft, fromBelow);
}

/** From the two ends back to the two starts, along what was reached with each number of differences. */
function walkBack(trace: readonly Int32Array[], beforeLength: number, afterLength: number): readonly Step[] {
  const steps: Step[] = [];
  const middle = ((trace[0]?.length ?? 3) - 1) / 2;
  let [x, y] = [beforeLength, afterLength];
  const matchDownTo = (fromX: number, fromY: number) => {
    while (x > fromX && y > fromY) steps.push({ before: --x, after: --y });
  };
  for (let differences = trace.length - 1; differences > 0; differences--) {
    const reach = trace[differences] as Int32Array;
    const diagonal = x - y;
    const [left, below] = [reach[middle + diagonal - 1] ?? 0, reach[middle + diagonal + 1] ?? 0];
    const isAdded = diagonal === -differences || (diagonal !== differences && left < below);
    const fromX = isAdded ? below : left;
    matchDownTo(fromX, fromX - (isAdded ? diagonal + 1 : diagonal - 1));
    steps.push(isAdded ? { before: null, after: --y } : { before: --x, after: null });
  }
  matchDownTo(0, 0);
  return steps.reverse();
}

/** Steps as alignment: removals and additions that stand side by side become changes, in order. */
function asAlignment(steps: readonly Step[]): readonly Alignment[] {
  const alignment: Alignment[] = [];
  let removed: number[] = [];
  let added: number[] = [];
  const flush = () => {
    const changed = Math.min(removed.length, added.length);
    for (let index = 0; index < changed; index++)
      alignment.push({ kind: 'changed', before: removed[index] as number, after: added[index] as number });
    for (const before of removed.slice(changed)) alignment.push({ kind: 'removed', before });
    for (const after of added.slice(changed)) alignment.push({ kind: 'added', after });
    [removed, added] = [[], []];
  };
  for (const { before, after } of steps) {
    if (before !== null && after !== null) {
      flush();
      alignment.push({ kind: 'kept', before, after });
    } else if (before !== null) removed.push(before);
    else if (after !== null) added.push(after);
  }
  flush();
  return alignment;
}
