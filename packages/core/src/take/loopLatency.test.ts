import { expect, test } from '@jest/globals';
import { seededRandom } from '../random/seededRandom.ts';
import { loopLatencyMaybe } from './loopLatency.ts';

const PLAYED = [0.3, 0.7, 1.22, 1.58, 2.19, 2.62, 3.24, 3.58];

test.each([
  ['every click heard', 0.043, 0, 0],
  ['two of eight missed', 0.187, 2, 0],
  ['late, with a door that slams now and then', 0.31, 1, 3],
])('%s: the delay is found', (_name, latency, missed, extra) => {
  const random = seededRandom(5);
  const heard = PLAYED.slice(missed).map((seconds) => seconds + latency + 0.002 * (random() - 0.5));
  for (let at = 0; at < extra; at++) heard.push(4 * random());
  const found = loopLatencyMaybe(
    PLAYED,
    heard.sort((a, b) => a - b),
  );
  expect(found?.latencySeconds).toBeCloseTo(latency, 2);
  expect(found?.spreadSeconds).toBeLessThan(0.003);
});

test.each([
  ['nothing was heard', []],
  ['too little was heard', [0.35, 0.75, 1.27]],
  ['something else was heard', [0.11, 0.42, 0.93, 1.35, 1.9, 2.31, 2.77, 3.4, 3.9]],
])('%s: no delay is told', (_name, heard) => {
  expect(loopLatencyMaybe(PLAYED, heard)).toBeNull();
});
