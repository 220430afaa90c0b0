import type { Act } from '../acts/act.ts';

/** What can be done with a place, each with its key; listed once. */
const SEAM_VIEWS = {
  card: { key: 'Escape', name: 'the place' },
  ladder: { key: 'l', name: 'ladder' },
  off: { key: 'f', name: 'off the instruments' },
  trainer: { key: 't', name: 'meter trainer' },
  reads: { key: 'r', name: 'reads as' },
  record: { key: 'h', name: 'record' },
} as const;

export type SeamView = keyof typeof SEAM_VIEWS;
const SEAM_VIEW_NAMES = Object.keys(SEAM_VIEWS) as SeamView[];

/** The act that opens each view; the one that is open has nothing to do. */
export function viewActs(
  shown: SeamView,
  hasTarget: boolean,
  onView: (view: SeamView) => void,
): readonly Act[] {
  return SEAM_VIEW_NAMES.map((view) => ({
    id: `seams.view.${view}`,
    ...SEAM_VIEWS[view],
    group: 'With this place',
    may: hasTarget && view !== shown,
    does: () => onView(view),
  }));
}
