import { expect as plain } from '@jest/globals';

export * from '@jest/globals';

const areNumbers = (...values) => values.every((value) => typeof value === 'number');

const PLAIN = Object.getPrototypeOf({});
/** What goes deeper may come back to itself. */
const MOST_DEEP = 12;

/** Whether two values are the same at a glance: plain lists and objects of the same, in which nothing has a say of its own. */
function areAlike(value, wanted, deep = 0) {
  if (Object.is(value, wanted)) return true;
  if (typeof value !== 'object' || typeof wanted !== 'object' || deep > MOST_DEEP) return false;
  if (Array.isArray(value) && Array.isArray(wanted)) {
    if (value.length !== wanted.length) return false;
    for (let index = 0; index < value.length; index++)
      if (!areAlike(value[index], wanted[index], deep + 1)) return false;
    return true;
  }
  if (areSamples(value, wanted))
    return value.length === wanted.length && value.every((one, index) => Object.is(one, wanted[index]));
  if (!isPlain(value) || !isPlain(wanted)) return false;
  let names = 0;
  for (const name in value) {
    if (value[name] === undefined) continue;
    if (!Object.hasOwn(wanted, name) || !areAlike(value[name], wanted[name], deep + 1)) return false;
    names++;
  }
  // As many say something in both: they are the same names.
  for (const name in wanted) if (wanted[name] !== undefined) names--;
  return names === 0;
}

/** Whether both are lists of numbers of one kind. */
function areSamples(value, wanted) {
  return (
    ArrayBuffer.isView(value) &&
    'length' in value &&
    ArrayBuffer.isView(wanted) &&
    value[Symbol.toStringTag] === wanted[Symbol.toStringTag]
  );
}

/** Whether it is an object of no class, and no list; those of another thread have another prototype. */
function isPlain(value) {
  if (value === null || Array.isArray(value)) return false;
  const kind = Object.getPrototypeOf(value);
  const isOfNone = kind === PLAIN || (kind !== null && Object.getPrototypeOf(kind) === null);
  return isOfNone && Object.getOwnPropertySymbols(value).length === 0;
}

/** What holds can be said at once; whatever does not is the plain matcher's to look at, and to tell. */
const HOLDS = {
  toBe: (value, wanted) => Object.is(value, wanted),
  toBeNull: (value) => value === null,
  toEqual: (value, wanted) => areAlike(value, wanted),
  toHaveLength: (value, length) => Array.isArray(value) && value.length === length,
  toBeLessThan: (value, limit) => areNumbers(value, limit) && value < limit,
  toBeLessThanOrEqual: (value, limit) => areNumbers(value, limit) && value <= limit,
  toBeGreaterThan: (value, limit) => areNumbers(value, limit) && value > limit,
  toBeGreaterThanOrEqual: (value, limit) => areNumbers(value, limit) && value >= limit,
  toBeCloseTo: (value, wanted, digits = 2) =>
    areNumbers(value, wanted) && Math.abs(value - wanted) < 10 ** -digits / 2,
};

/**
 * An expectation is made with every matcher there is, plain and turned round, and with an error that knows where it was: in a test
 * that expects something of a hundred thousand beats that is most of its time. Here it is made where it is needed.
 */
class Expectation {
  constructor(value, said) {
    this.value = value;
    this.said = said;
  }

  get plain() {
    return plain(this.value, ...this.said);
  }
}

for (const [name, matcher] of Object.entries(plain())) {
  const holds = HOLDS[name];
  const told =
    typeof matcher === 'function'
      ? {
          value: function tell(...wanted) {
            if (holds?.(this.value, ...wanted)) return undefined;
            try {
              return this.plain[name](...wanted);
            } catch (error) {
              // It is told where the test stands, not here.
              Error.captureStackTrace(error, tell);
              throw error;
            }
          },
        }
      : {
          get() {
            return this.plain[name];
          },
        };
  Object.defineProperty(Expectation.prototype, name, told);
}

export const expect = Object.setPrototypeOf((value, ...said) => new Expectation(value, said), plain);
