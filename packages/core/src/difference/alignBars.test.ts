import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { alignBars, barSteps, type Alignment } from './alignBars.ts';

test.each<[string, string, string]>([
  ['', '', ''],
  ['abc', 'abc', '= = ='],
  ['abc', 'abxc', '= = + ='],
  ['abc', 'ac', '= - ='],
  ['abc', 'axc', '= ~ ='],
  ['aaaa', 'aabbaa', '= = + + = ='],
  ['abcd', 'xabyd', '+ = = ~ ='],
  ['abcde', 'axxxe', '= ~ ~ ~ ='],
  ['', 'ab', '+ +'],
])('%s to %s', (before, after, shape) => {
  const signs = { kept: '=', changed: '~', removed: '-', added: '+' };
  expect(
    alignBars([...before], [...after])
      .map(({ kind }) => signs[kind])
      .join(' '),
  ).toBe(shape);
});

test('any two lists are matched in order, whole, and with no more differences than a slow table finds', () => {
  const list = fc.array(fc.constantFrom(...'abcd'), { maxLength: 30 });
  fc.assert(
    fc.property(list, list, (before, after) => {
      const alignment = alignBars(before, after);
      expect(indices(alignment, 'before')).toEqual(before.map((_, index) => index));
      expect(indices(alignment, 'after')).toEqual(after.map((_, index) => index));
      const kept = alignment.flatMap((step) => (step.kind === 'kept' ? [step] : []));
      for (const step of kept) expect(before[step.before]).toBe(after[step.after]);
      expect(kept).toHaveLength(longestCommon(before, after));
    }),
    { numRuns: 400, seed: 7 },
  );
});

test('lists of thousands that have nothing in common are matched at once', () => {
  const list = (letter: string) => Array.from({ length: 8000 }, (_, index) => `${letter}${index}`);
  const alignment = alignBars(list('a'), [...list('b'), 'c']);
  expect(alignment).toHaveLength(8001);
  expect(alignment.at(-1)).toEqual({ kind: 'added', after: 8000 });
});

function indices(alignment: readonly Alignment[], side: 'before' | 'after'): number[] {
  return alignment.flatMap((step) => {
    const index = (step as Partial<Record<'before' | 'after', number>>)[side];
    return index === undefined ? [] : [index];
  });
}

/** The slow twin: length of the longest common subsequence, by table. */
function longestCommon(a: readonly string[], b: readonly string[]): number {
  const table = Array.from({ length: a.length + 1 }, () => new Array<number>(b.length + 1).fill(0));
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++)
      table[i]![j] =
        a[i - 1] === b[j - 1] ? table[i - 1]![j - 1]! + 1 : Math.max(table[i - 1]![j]!, table[i]![j - 1]!);
  return table[a.length]![b.length]!;
}

test.each<[string, string, string, string]>([
  ['a meter that goes on to the next bar', 'a---', 'ba-c', 'changed changed kept changed'],
  [
    'a bar taken out before, and one put in at the end',
    'abcde',
    'bcdef',
    'removed kept kept kept kept added',
  ],
  ['one bar changed', 'abcd', 'abxd', 'kept kept changed kept'],
  ['a bar more', 'abc', 'abxc', 'kept kept added kept'],
])('%s is told so', (_name, before, after, steps) => {
  expect(
    barSteps([...before], [...after])
      .map(({ kind }) => kind)
      .join(' '),
  ).toBe(steps);
});
