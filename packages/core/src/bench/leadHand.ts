/** Which hand or foot leads each bar when strokes go right, left, right, left without a break. */
export interface LeadHands {
  readonly leads: ReadonlyArray<'right' | 'left'>;
  /** After so many times through the bars the right hand leads the first one again: 1 or 2. */
  readonly comesRoundAfter: 1 | 2;
}

/** Lead hands over bars of so many strokes each, the right one first. */
export function leadHands(strokes: readonly number[]): LeadHands {
  let total = 0;
  const leads = strokes.map((count) => {
    const lead = total % 2 === 0 ? ('right' as const) : ('left' as const);
    total += count;
    return lead;
  });
  return { leads, comesRoundAfter: total % 2 === 0 ? 1 : 2 };
}
