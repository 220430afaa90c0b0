/** A piece as it is saved: of one plain bar, or of some. */
export function documentOf(title: string, bars: readonly unknown[] = [{ meter: '4/4' }]) {
  return { format: 'anchorbeat-piece', version: 1, title, bars };
}
