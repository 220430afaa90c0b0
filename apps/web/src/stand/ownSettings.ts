import { Kept } from '../kept/kept.ts';

/** What is kept on one device: how loud it is, whether it is muted, whether it can be felt, and how late it sounds. */
export interface OwnSettings {
  readonly level: number;
  readonly isMuted: boolean;
  readonly isFelt: boolean;
  /** How much later than the browser knows its sound comes out, in milliseconds. */
  readonly correctionMs: number;
  readonly look: 'hall' | 'desk';
}

const USUAL: OwnSettings = { level: 0.2, isMuted: false, isFelt: false, correctionMs: 0, look: 'hall' };
export const MOST_CORRECTION_MS = 500;

export const keptOwnSettings = new Kept<OwnSettings>('anchorbeat.standSettings', (stored) => {
  const known = (stored ?? {}) as Partial<OwnSettings>;
  const within = (value: unknown, least: number, most: number, usual: number) =>
    typeof value === 'number' && value >= least && value <= most ? value : usual;
  return {
    level: within(known.level, 0, 1, USUAL.level),
    isMuted: known.isMuted === true,
    isFelt: known.isFelt === true,
    correctionMs: within(known.correctionMs, -MOST_CORRECTION_MS, MOST_CORRECTION_MS, 0),
    look: known.look === 'desk' ? 'desk' : 'hall',
  };
});
