/** "1:05": sixties and what is over, of seconds or of minutes. */
export function clockText(count: number): string {
  return `${Math.floor(count / 60)}:${String(count % 60).padStart(2, '0')}`;
}
