import { existsSync, readFileSync } from 'node:fs';

/** Median, least and most of several timed runs, in milliseconds, after some that are not counted. */
export function timed(work, { runs = 21, warmUp = 12 } = {}) {
  const times = [];
  for (let run = -warmUp; run < runs; run++) {
    const start = performance.now();
    work();
    if (run >= 0) times.push(performance.now() - start);
  }
  return summary(times);
}

export function summary(times) {
  const sorted = [...times].sort((a, b) => a - b);
  return { median: sorted[Math.floor(sorted.length / 2)], min: sorted[0], max: sorted.at(-1) };
}

export function show(name, { median, min, max }, wanted = '') {
  const figures = `${median.toFixed(2)} ms (${min.toFixed(2)} to ${max.toFixed(2)})`;
  console.log(`${name.padEnd(58)} ${figures.padEnd(34)} ${wanted}`);
}

/**
 * Hundredths of a second that the machine's cores were wanted and given to somebody else, since it was started; 0 where the
 * machine does not tell.
 */
export function stolenTicks() {
  if (!existsSync('/proc/stat')) return 0;
  return Number(/^cpu +(?:\d+ +){7}(\d+)/.exec(readFileSync('/proc/stat', 'utf8'))?.[1] ?? 0);
}

/** Shows times of which each says whether the machine was ours meanwhile: all, and the ninety-ninth percentile of those. */
export function showUndisturbed(name, timed, wanted) {
  show(name, summary(timed.map(({ milliseconds }) => milliseconds)), wanted);
  const own = timed.filter(({ stolen }) => stolen === 0).map(({ milliseconds }) => milliseconds);
  if (own.length === 0) return;
  const sorted = own.sort((a, b) => a - b);
  const p99 = sorted[Math.ceil(sorted.length * 0.99) - 1];
  console.log(
    `  while the machine was ours (${own.length} of ${timed.length}): median ${summary(own).median.toFixed(2)} ms, p99 ${p99.toFixed(2)} ms`,
  );
}

/** Signs a browser in at a server that has no accounts. */
export async function openHere(request, url) {
  await request.post(`${url}/api/session/here`);
}

/** The cookie by which whoever sits at the machine is known to such a server. */
export async function cookieOf(url) {
  const answer = await fetch(`${url}/api/session/here`, { method: 'POST' });
  return (answer.headers.get('set-cookie') ?? '').split(';', 1)[0];
}
