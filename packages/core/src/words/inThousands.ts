/** A large count as it is read: "9,999". A formatter of the language's own takes many milliseconds to begin. */
export function inThousands(count: number): string {
  return String(count).replace(/\B(?=(?:\d{3})+$)/g, ',');
}
