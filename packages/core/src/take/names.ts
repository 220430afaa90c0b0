/** What a take can have done at a seam, by fixed words. */
export const EXPLANATIONS = [
  'held',
  'early',
  'late',
  'old-pulse',
  'old-small-note',
  'turned-round',
  'filled-up',
  'cut-short',
  'triplet',
  'lost-beat',
  'gained-beat',
  'rushed',
  'dragged',
  'settled-in',
  'followed',
  'too-few',
] as const;
export type Explanation = (typeof EXPLANATIONS)[number];

/** What is asked to be played or tapped: every beat, the first of every group, the carry through the seams, or the notes. */
export const PLAYED_CHOICES = ['pulse', 'groups', 'carry', 'notes'] as const;
export type PlayedChoice = (typeof PLAYED_CHOICES)[number];
