import { isDeepStrictEqual } from 'node:util';
import type { SaveDateRequest } from '@anchorbeat/contract';

/** What becomes of something that was so, that whoever speaks now has changed, and others meanwhile. */
type Merge = (base: unknown, mine: unknown, theirs: unknown) => unknown;

/** Where both changed it, mine holds. */
const either: Merge = (base, mine, theirs) => (isDeepStrictEqual(mine, base) ? theirs : mine);

/** Entry by entry, each known by its key; what both put in is in, and what one took out is out. */
function listBy(keyOf: (item: unknown) => unknown): Merge {
  const byKey = (list: unknown) => new Map(((list ?? []) as unknown[]).map((item) => [keyOf(item), item]));
  return (base, mine, theirs) => {
    if (isDeepStrictEqual(mine, base)) return theirs;
    if (isDeepStrictEqual(theirs, base)) return mine;
    const [was, here, there] = [byKey(base), byKey(mine), byKey(theirs)];
    const isOut = (key: unknown) =>
      was.has(key) && (!here.has(key) || (!there.has(key) && isDeepStrictEqual(here.get(key), was.get(key))));
    const inBoth = (keys: ReadonlyMap<unknown, unknown>) =>
      [...keys.keys()].filter((key) => here.has(key) && was.has(key));
    // Who left the order as it was takes the others' order.
    const [first, second] = isDeepStrictEqual(inBoth(here), inBoth(was)) ? [there, here] : [here, there];
    const keys = new Set([...first.keys(), ...second.keys()]);
    return [...keys].flatMap((key) =>
      isOut(key)
        ? []
        : [
            here.has(key)
              ? either(was.get(key), here.get(key), there.get(key) ?? here.get(key))
              : there.get(key),
          ],
    );
  };
}

/** Field by field, each in its way; where none is said, as a whole. */
function fieldsBy(merges: Readonly<Record<string, Merge>>): Merge {
  return (base, mine, theirs) => {
    const [was, here, there] = [base, mine, theirs] as [Fields, Fields, Fields];
    const names = new Set([...Object.keys(here), ...Object.keys(there)]);
    const merged = [...names].map((name) => {
      const merge = merges[name] ?? either;
      return [name, merge(was[name] ?? null, here[name] ?? null, there[name] ?? null)] as const;
    });
    return Object.fromEntries(merged.filter(([, value]) => value !== null));
  };
}

type Fields = Readonly<Record<string, unknown>>;

const named = (name: string) => listBy((item) => (item as Fields)[name]);
const itself = listBy((item) => item);

const dateFields = fieldsBy({
  absent: itself,
  pieceIds: itself,
  tempi: named('pieceId'),
  done: named('key'),
  wishes: fieldsBy({ pinned: itself, skipped: itself, order: itself, minutes: named('key') }),
});

/** A date as one changes it, from `base` to `mine`, with what others changed of it meanwhile, from `base` to `theirs`. */
export function mergedDate(
  base: SaveDateRequest,
  mine: SaveDateRequest,
  theirs: SaveDateRequest,
): SaveDateRequest {
  return dateFields(plain(base), plain(mine), plain(theirs)) as SaveDateRequest;
}

/** As it is sent: without classes. */
function plain(date: SaveDateRequest): unknown {
  return JSON.parse(JSON.stringify(date));
}
