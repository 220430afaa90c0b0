/** The one after `now` in a list, and after the last the first again: what a key that goes through a list does. */
export function nextOf<T>(list: readonly T[], now: T): T {
  return list[(list.indexOf(now) + 1) % list.length] as T;
}
