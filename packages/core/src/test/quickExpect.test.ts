import { expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';

/** The matchers that tests are handed look at a glance first; those of Jest are behind them. */
const slow = Object.getPrototypeOf(expect) as typeof expect;

const holds = (says: () => void) => {
  try {
    says();
    return true;
  } catch {
    return false;
  }
};
const [around, otherAround] = [[], []].map((list: unknown[]) => (list.push(list), list));
const mark = Symbol('mark');

/** What is easily taken for something else. */
const VALUES: readonly unknown[] = [
  ...[
    undefined,
    null,
    0,
    -0,
    1,
    NaN,
    '',
    '1',
    true,
    [],
    {},
    [1],
    [1, 2],
    [2, 1],
    [undefined],
    [null],
    [0],
    [-0],
  ],
  ...[
    { a: 1 },
    { b: 1 },
    { a: undefined },
    { a: 1, b: undefined },
    { a: 1, b: 2 },
    { a: [1] },
    { a: { a: 1 } },
  ],
  ...[
    { length: 0 },
    { length: 1, 0: 1 },
    { constructor: Object },
    { [mark]: 1 },
    { [mark]: 2 },
    [{ [mark]: 1 }],
  ],
  ...[Uint8Array.of(1), Uint8Array.of(2), Int8Array.of(1), Float64Array.of(0), Float64Array.of(-0)],
  ...[new Map([[1, 2]]), new Map([[1, 3]]), new Set([1]), new Date(1), new Date(2), [new Date(2)], /a/, /b/],
  ...[new Error('a'), new Error('b'), Object.create(null), around, otherAround, [around]],
  ...[
    structuredClone([{ a: [Float64Array.of(1)] }]),
    [{ a: [Float64Array.of(1)] }],
    new DataView(new ArrayBuffer(1)),
  ],
  ...[expect.any(Number), [expect.any(Number)], { a: expect.anything() }],
];

test.each(VALUES.map((value, index) => [index, value] as const))(
  'what is expected at a glance is what is expected: value %i beside every other',
  (_index, value) => {
    const differing = VALUES.filter(
      (wanted) => holds(() => expect(value).toEqual(wanted)) !== holds(() => slow(value).toEqual(wanted)),
    );
    slow(differing).toHaveLength(0);
    for (const length of [0, 1, 2])
      slow(holds(() => expect(value).toHaveLength(length))).toBe(
        holds(() => slow(value).toHaveLength(length)),
      );
    slow(holds(() => expect(value).toBeNull())).toBe(value === null);
  },
);

test('also where something deep inside is another', () => {
  const random = seededRandom(5);
  const below = (limit: number) => Math.floor(random() * limit);
  const some = (deep: number): unknown => {
    const kind = deep > 3 ? 0 : below(3);
    if (kind === 0) return [0, 1, 'a', null, undefined, Float32Array.of(below(2))][below(6)];
    const inside = Array.from({ length: below(3) }, () => some(deep + 1));
    return kind === 1 ? inside : Object.fromEntries(inside.map((each, index) => ['abc'[index], each]));
  };
  let same = 0;
  for (let round = 0; round < 800; round++) {
    const [one, other] = [some(0), some(0)];
    const isSame = holds(() => expect(one).toEqual(other));
    if (isSame) same++;
    slow(isSame).toBe(holds(() => slow(one).toEqual(other)));
  }
  slow(same).toBeGreaterThan(30);
  slow(same).toBeLessThan(770);
});
