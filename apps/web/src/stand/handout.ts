import { Kept } from '../kept/kept.ts';

/** What a section is to do at home, as its stand was handed it. */
export interface Handout {
  readonly ensembleName: string;
  readonly section: string;
  readonly lines: readonly string[];
}

/** The last one that came: it is on the phone also when the rehearsal is over. */
export const keptHandout = new Kept<Handout | null>('anchorbeat.atHome', (stored) =>
  isHandout(stored) ? stored : null,
);

/** Keeps what has come; the same again changes nothing. */
export function keepHandout(handout: Handout): void {
  if (JSON.stringify(keptHandout.get()) !== JSON.stringify(handout)) keptHandout.set(handout);
}

function isHandout(stored: unknown): stored is Handout {
  if (typeof stored !== 'object' || stored === null) return false;
  const { ensembleName, section, lines } = stored as Partial<Record<keyof Handout, unknown>>;
  return (
    typeof ensembleName === 'string' &&
    typeof section === 'string' &&
    Array.isArray(lines) &&
    lines.every((line) => typeof line === 'string')
  );
}
