import { clickKind, type ClickKind } from '../click/clickPlan.ts';
import { writtenIndex, type Proof } from '../proof/proof.ts';
import { oddBarMaybe } from '../seam/oddBar.ts';
import { landsTogether, seamIntoMaybe, type Seam } from '../seam/seam.ts';
import { firstAtOrAfter } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import type { ClickChoice, Fade, RunSettings } from './settings.ts';
import { clickOnAt } from './spans.ts';

/** What is heard of a run. */
export interface AudibleClicks {
  /** Whether a click of the piece, by its index in the click plan, is heard. */
  readonly isHeard: (index: number) => boolean;
  /** Whether what sounds beside the click plan, as a subdivision does, is heard in a performed bar. */
  readonly isOpen: (performed: number) => boolean;
}

/** What is heard of the click as a run is wanted. Fades count performed bars from the entry. */
export function audibleClicks(proof: Proof, settings: RunSettings, entrySeconds: number): AudibleClicks {
  const { clicks, seams, timeline } = proof.compiled;
  const { seamAt } = settings;
  const isAnchor = (performed: number) =>
    seamAt === null ? isLandedOn(seamIntoMaybe(seams, performed)) : performed === seamAt;
  const entryBar = firstAtOrAfter(timeline.barStartSeconds, entrySeconds - SAME_MOMENT_SECONDS);
  const { fade } = settings;
  const isLeftOf = (kind: ClickKind, performed: number) =>
    fade === null || isLeft(fade, proof, { performed, sinceEntry: performed - entryBar, kind });
  return {
    isHeard: (index) => {
      const kind = clickKind(clicks, index);
      const performed = clicks.performed[index] ?? 0;
      return isChosen(clickOnAt(settings, performed), kind, isAnchor(performed)) && isLeftOf(kind, performed);
    },
    isOpen: (performed) => isLeftOf('subdivision', performed),
  };
}

/** A hold or a ramp in the bar alone is no place to land on. */
function isLandedOn(seam: Seam | null): boolean {
  return seam !== null && landsTogether(seam);
}

function isChosen(clickOn: ClickChoice, kind: ClickKind, isAnchorBar: boolean): boolean {
  switch (clickOn) {
    case 'nothing':
      return false;
    case 'subdivision':
      return true;
    case 'pulse':
    case 'carry':
      return kind !== 'subdivision';
    case 'downbeats':
      return kind === 'downbeat';
    case 'anchors':
      return kind === 'downbeat' && isAnchorBar;
  }
}

interface FadedClick {
  readonly performed: number;
  readonly sinceEntry: number;
  readonly kind: ClickKind;
}

/** What each turn of "fewer and fewer" leaves. */
const FEWER: ReadonlyArray<readonly ClickKind[]> = [
  ['downbeat', 'group', 'beat', 'subdivision'],
  ['downbeat', 'group'],
  ['downbeat'],
  [],
];

function isLeft(fade: Fade, proof: Proof, { performed, sinceEntry, kind }: FadedClick): boolean {
  const bar = Math.max(0, sinceEntry);
  switch (fade.kind) {
    case 'bars':
      return bar % (fade.on + fade.off) < fade.on;
    case 'odd bars':
      return oddBarMaybe(proof.piece, writtenIndex(proof, performed)) === null;
    case 'fewer':
      return FEWER[Math.floor(bar / fade.bars) % FEWER.length]?.includes(kind) ?? false;
  }
}

/** Whether a fade leaves no beat of a performed bar; counted from the bar of the entry. */
export function isSilentBar(fade: Fade, proof: Proof, performed: number, sinceEntry: number): boolean {
  const kinds = ['downbeat', 'group', 'beat'] as const;
  return kinds.every((kind) => !isLeft(fade, proof, { performed, sinceEntry, kind }));
}
