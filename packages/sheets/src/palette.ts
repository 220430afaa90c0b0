import type { Tone } from '@anchorbeat/drawing';

/** Ink on white paper: every tone still told apart in grey, and dark enough when it is copied smaller. */
export const PAPER_PALETTE: Readonly<Record<Tone, string>> = {
  ink: '#1c2733',
  quiet: '#47525c',
  faint: '#c9c4b8',
  ground: '#ffffff',
  'hop-fill': '#f0efec',
  'hop-odd': '#f4ddd7',
  seam: '#b03522',
  carry: '#0b6b67',
  entry: '#8f5d12',
  'entry-text': '#74490a',
  problem: '#8a2b6b',
};
