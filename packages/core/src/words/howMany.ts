/** So many of a thing: "1 bar", "64 bars", "2 copies" for `howMany(2, 'copy', 'copies')`. */
export function howMany(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
