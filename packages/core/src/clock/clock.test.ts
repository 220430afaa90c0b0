import { describe, expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { audioLineMaybe, audioSecondsOf, momentsAfter, type AudioMoment } from './audioLine.ts';
import {
  clockLineOf,
  exchangesAfter,
  exchangeWaitMs,
  isLocked,
  maySound,
  pageMsOf,
  serverMsOf,
  type ClockExchange,
} from './clockLine.ts';

interface Network {
  readonly delayMs: number;
  readonly jitterMs: number;
  /** How much longer the way there takes than the way back. */
  readonly skewMs?: number;
  /** How a jitter is spread from 0 to 1: half of it a floor that is often met, as of a radio that waits for its turn, if not said. */
  readonly spread?: (random: () => number) => number;
}

const evenly = (random: () => number) => random();
/** Without a floor: the middle is met most. */
const bell = (random: () => number) => (random() + random() + random() + random() + random() + random()) / 6;
/** Of twenty one is lost and sent anew. */
const lossy = (random: () => number) => random() + (random() < 0.05 ? 4 : 0);

/** Exchanges as a page has them: ten at once, then one every two seconds, over a network, against a server that is set otherwise. */
function exchangesOver(
  seconds: number,
  { delayMs, jitterMs, skewMs = 0, spread = (random) => random() ** 4 }: Network,
  { offsetMs, drift }: { readonly offsetMs: number; readonly drift: number },
  seed: number,
) {
  const random = seededRandom(seed);
  const serverMs = (pageMs: number) => pageMs * (1 + drift) + offsetMs;
  const way = () => delayMs / 2 + jitterMs * spread(random);
  let exchanges: readonly ClockExchange[] = [];
  let pageMs = 1000;
  let clock = clockLineOf([], pageMs);
  for (let count = 0; pageMs < 1000 + seconds * 1000; count++) {
    const there = way() + Math.max(0, skewMs);
    const back = way() + Math.max(0, -skewMs);
    exchanges = exchangesAfter(exchanges, {
      sentMs: pageMs,
      receivedMs: serverMs(pageMs + there),
      answeredMs: serverMs(pageMs + there) + 0.1,
      backMs: pageMs + there + 0.1 + back,
    });
    // Asked seldom enough that a hundred clocks are soon tried.
    if (count < 10 || count % 8 === 0) clock = clockLineOf(exchanges, pageMs);
    pageMs += exchangeWaitMs(count, clock, random());
  }
  const line = clockLineOf(exchanges, pageMs);
  return { line, missMs: serverMsOf(line, pageMs) - serverMs(pageMs), pageMs };
}

describe('the server’s clock from four stamps', () => {
  test.each<[string, number, Network]>([
    ['on one machine', 10, { delayMs: 0.4, jitterMs: 0.5 }],
    ['a quiet hall network', 30, { delayMs: 6, jitterMs: 4 }],
    ['40 ± 30 ms', 120, { delayMs: 10, jitterMs: 60 }],
    ['40 ± 30 ms, all as likely', 120, { delayMs: 20, jitterMs: 60, spread: evenly }],
    ['40 ± 30 ms, the middle likelier', 120, { delayMs: 20, jitterMs: 60, spread: bell }],
    ['some lost', 60, { delayMs: 4, jitterMs: 40, spread: lossy }],
  ])('%s: as near as it says, with a clock set wrong and drifting', (_name, seconds, network) => {
    const misses: number[] = [];
    let within = 0;
    for (let seed = 1; seed <= 30; seed++) {
      const drift = (seed % 2 ? 1 : -1) * 50e-6;
      const { line, missMs } = exchangesOver(seconds, network, { offsetMs: 3000 - 200 * seed, drift }, seed);
      misses.push(Math.abs(missMs));
      if (misses.at(-1)! < 2 * line.standardErrorMs) within++;
      expect(isLocked(line)).toBe(true);
      expect(maySound(line)).toBe(true);
    }
    misses.sort((a, b) => a - b);
    expect(misses[14]).toBeLessThan(1);
    expect(misses[28]).toBeLessThan(2.5);
    // Some nine of ten are within two standard errors.
    expect(within).toBeGreaterThan(23);
  });

  test('a device that is busy as it joins believes nothing that cannot be, and sounds only when it is near', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const random = seededRandom(seed);
      let exchanges: readonly ClockExchange[] = [];
      let firstMissMs: number | null = null;
      for (let count = 0; count < 30; count++) {
        const sentMs = 1000 + count * 90;
        const receivedMs = sentMs + 1 + 2 * random() + 500;
        // What it is told waits for it, less and less.
        const backMs = receivedMs - 500 + 1 + 4 * random() + 60 * random() * Math.exp(-count / 3);
        exchanges = exchangesAfter(exchanges, { sentMs, receivedMs, answeredMs: receivedMs, backMs });
        const line = clockLineOf(exchanges, backMs);
        expect(line.offsetMs).toBeLessThan(Math.min(...exchanges.map((one) => one.receivedMs - one.sentMs)));
        expect(line.offsetMs).toBeGreaterThan(
          Math.max(...exchanges.map((one) => one.answeredMs - one.backMs)),
        );
        if (maySound(line)) firstMissMs ??= Math.abs(line.offsetMs - 500);
      }
      expect(firstMissMs).toBeLessThan(5);
    }
  });

  test('a page’s clock that was set anew is found again by the next exchanges', () => {
    const random = seededRandom(2);
    let exchanges: readonly ClockExchange[] = [];
    for (let count = 0; count < 60; count++) {
      const sentMs = count * 1000;
      const [there, back] = [3 + 4 * random(), 3 + 4 * random()];
      const receivedMs = sentMs + there + (count < 40 ? 500 : 300);
      exchanges = exchangesAfter(exchanges, {
        sentMs,
        receivedMs,
        answeredMs: receivedMs,
        backMs: sentMs + there + back,
      });
    }
    expect(Math.abs(serverMsOf(clockLineOf(exchanges, 60_000), 60_000) - 60_300)).toBeLessThan(2);
  });

  test('what a path hides that is slower one way is at most half the quickest round trip', () => {
    const network = { delayMs: 8, jitterMs: 0, skewMs: 10 };
    const { line, missMs } = exchangesOver(60, network, { offsetMs: 500, drift: 0 }, 3);
    expect(missMs).toBeCloseTo(5, 1);
    expect(Math.abs(missMs)).toBeLessThanOrEqual(line.leastRoundTripMs / 2);
  });

  test('an hour of drift is followed: only the last minutes count', () => {
    const { line, missMs } = exchangesOver(
      3600,
      { delayMs: 6, jitterMs: 6 },
      { offsetMs: -2000, drift: 90e-6 },
      5,
    );
    expect(Math.abs(missMs)).toBeLessThan(0.6);
    expect(line.drift * 1e6).toBeCloseTo(90, -1);
  });

  test('one lucky exchange among slow ones does not leave a device without a clock', () => {
    const random = seededRandom(8);
    let exchanges: readonly ClockExchange[] = [];
    for (let count = 0; count < 40; count++) {
      const way = () => (count === 5 ? 0.2 : 6 + 14 * random());
      const [sentMs, there, back] = [count * 500, way(), way()];
      const receivedMs = sentMs + there + 1234;
      exchanges = exchangesAfter(exchanges, {
        sentMs,
        receivedMs,
        answeredMs: receivedMs,
        backMs: sentMs + there + back,
      });
    }
    const line = clockLineOf(exchanges, 20_000);
    expect(maySound(line)).toBe(true);
    expect(Math.abs(serverMsOf(line, 20_000) - 21_234)).toBeLessThan(3);
  });

  test('there and back through the line is the same moment', () => {
    const { line, pageMs } = exchangesOver(
      60,
      { delayMs: 5, jitterMs: 3 },
      { offsetMs: 77, drift: 30e-6 },
      9,
    );
    expect(pageMsOf(line, serverMsOf(line, pageMs + 250_000))).toBeCloseTo(pageMs + 250_000, 6);
  });

  test('a few exchanges do not allow to sound, and impossible ones are passed over', () => {
    const one = { sentMs: 0, receivedMs: 100, answeredMs: 100.1, backMs: 4 };
    const many = (count: number) => clockLineOf(Array<ClockExchange>(count).fill(one), 10);
    expect([9, 10].map((count) => maySound(many(count)))).toEqual([false, true]);
    expect(exchangesAfter([one], { ...one, backMs: -1 })).toEqual([one]);
    expect(maySound(clockLineOf([], 10))).toBe(false);
  });
});

describe('the sound’s clock from readings', () => {
  const readings = (rate: number, jitterSeconds: number, count: number, seed: number) => {
    const random = seededRandom(seed);
    let moments: readonly AudioMoment[] = [];
    for (let second = 0; second < count; second++) {
      const pageMs = 5000 + second * 1000;
      const late = second % 7 === 3 ? 0.018 : jitterSeconds * random();
      moments = momentsAfter(moments, { pageMs, audioSeconds: 2 + (rate * second * 1000) / 1000 - late });
    }
    return moments;
  };

  test.each([0, 60e-6, -80e-6])(
    'a card that goes %d off is followed to a fraction of a millisecond',
    (off) => {
      const moments = readings(1 + off, 0.0006, 40, 4);
      const line = audioLineMaybe(moments)!;
      const ahead = 5000 + 44_000;
      expect(Math.abs(audioSecondsOf(line, ahead) - (2 + (1 + off) * 44))).toBeLessThan(0.0009);
    },
  );

  test('one odd reading moves nothing, and after a jump only what came after it counts', () => {
    const jumped = (moments: readonly AudioMoment[], second: number) =>
      momentsAfter(moments, { pageMs: 5000 + second * 1000, audioSeconds: 2 + second - 1.5 });
    const steady = readings(1, 0, 10, 1);
    const once = jumped(steady, 11);
    expect(once).toHaveLength(steady.length + 1);
    expect(Math.abs(audioSecondsOf(audioLineMaybe(once)!, 17_000) - 14)).toBeLessThan(0.02);
    const thrice = jumped(jumped(once, 12), 13);
    expect(thrice).toHaveLength(3);
    expect(audioSecondsOf(audioLineMaybe(thrice)!, 18_000)).toBeCloseTo(13.5, 6);
    expect(audioLineMaybe([])).toBeNull();
  });
});
