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

/** Signs a browser in at a server that has no accounts. */
export async function openHere(request, url) {
  await request.post(`${url}/api/session/here`);
}

/** The cookie by which whoever sits at the machine is known to such a server. */
export async function cookieOf(url) {
  const answer = await fetch(`${url}/api/session/here`, { method: 'POST' });
  return (answer.headers.get('set-cookie') ?? '').split(';', 1)[0];
}
