import { expect as plain } from '@jest/globals';

export * from '@jest/globals';

const areNumbers = (...values) => values.every((value) => typeof value === 'number');

const [LIST, PLAIN] = [[], {}].map(Object.getPrototypeOf);
/** What goes deeper may come back to itself. */
const MOST_DEEP = 12;

/** Whether two values are the same at a glance: plain lists and objects of the same, in which nothing has a say of its own. */
function areAlike(value, wanted, deep = 0) {
  if (Object.is(value, wanted)) return true;
  if (!isPlain(value) || !isPlain(wanted) || deep > MOST_DEEP) return false;
  const names = Object.keys(value);
  return (
    Array.isArray(value) === Array.isArray(wanted) &&
    value.length === wanted.length &&
    names.length === Object.keys(wanted).length &&
    names.every((name) => Object.hasOwn(wanted, name) && areAlike(value[name], wanted[name], deep + 1))
  );
}

function isPlain(value) {
  if (typeof value !== 'object' || value === null) return false;
  const kind = Object.getPrototypeOf(value);
  return (kind === LIST || kind === PLAIN) && Object.getOwnPropertySymbols(value).length === 0;
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
