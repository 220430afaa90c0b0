/**
 * The time of all rooms, in milliseconds: the machine's monotonic clock. It goes on through a restart of the server and is the
 * same for every process of one machine, and nobody who sets the wall clock moves it.
 */
export function serverNowMs(): number {
  return Number(process.hrtime.bigint() / 1000n) / 1000;
}
