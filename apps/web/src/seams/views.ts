/** What can be done with a place, each with its key; listed once. */
export const SEAM_VIEWS = {
  card: { key: 'Escape', shownKey: 'esc', name: 'the place' },
  ladder: { key: 'l', shownKey: 'l', name: 'ladder' },
  off: { key: 'f', shownKey: 'f', name: 'off the instruments' },
  trainer: { key: 't', shownKey: 't', name: 'meter trainer' },
  reads: { key: 'r', shownKey: 'r', name: 'reads as' },
  record: { key: 'h', shownKey: 'h', name: 'record' },
} as const;

export type SeamView = keyof typeof SEAM_VIEWS;
export const SEAM_VIEW_NAMES = Object.keys(SEAM_VIEWS) as SeamView[];

export function viewOfKeyMaybe(key: string): SeamView | null {
  return SEAM_VIEW_NAMES.find((view) => SEAM_VIEWS[view].key === key) ?? null;
}
