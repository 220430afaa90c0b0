/** "next bar", "in 5 bars" */
export function countdown(bars: number): string {
  return bars === 1 ? 'next bar' : `in ${bars} bars`;
}
