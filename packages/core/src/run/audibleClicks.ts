import { clickKind } from '../click/clickPlan.ts';
import { oddBarMaybe } from '../seam/oddBar.ts';
import { firstAtOrAfter } from '../timeline/query.ts';
import type { RunSource } from './runPlan.ts';
import type { ClickChoice, Fade, RunSettings } from './settings.ts';

/** What is heard of a run. */
export interface AudibleClicks {
  /** Whether a click of the piece, by its index in the click plan, is heard. */
  readonly isHeard: (index: number) => boolean;
  /** Whether what sounds beside the click plan, as a subdivision does, is heard in a performed bar. */
  readonly isOpen: (performed: number) => boolean;
}

/** What is heard of the click as a run is wanted. Fades count performed bars from the entry. */
export function audibleClicks(source: RunSource, settings: RunSettings, entrySeconds: number): AudibleClicks {
  const { clicks, seams, timeline } = source.compiled;
  const { seamAt } = settings;
  const anchors = new Set(seamAt === null ? seams.map((seam) => seam.performed) : [seamAt]);
  const entryBar = firstAtOrAfter(timeline.barStartSeconds, entrySeconds - 1e-7);
  const { fade, clickOn } = settings;
  const isLeftOf = (kind: Kind, performed: number) =>
    fade === null || isLeft(fade, source, { performed, sinceEntry: performed - entryBar, kind });
  return {
    isHeard: (index) => {
      const kind = clickKind(clicks, index);
      const performed = clicks.performed[index] ?? 0;
      return isChosen(clickOn, kind, anchors.has(performed)) && isLeftOf(kind, performed);
    },
    isOpen: (performed) => isLeftOf('subdivision', performed),
  };
}

type Kind = ReturnType<typeof clickKind>;

function isChosen(clickOn: ClickChoice, kind: Kind, isAnchorBar: boolean): boolean {
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
  readonly kind: Kind;
}

/** What each turn of "fewer and fewer" leaves. */
const FEWER: ReadonlyArray<readonly Kind[]> = [
  ['downbeat', 'group', 'beat', 'subdivision'],
  ['downbeat', 'group'],
  ['downbeat'],
  [],
];

function isLeft(
  fade: Fade,
  { piece, compiled }: RunSource,
  { performed, sinceEntry, kind }: FadedClick,
): boolean {
  const bar = Math.max(0, sinceEntry);
  switch (fade.kind) {
    case 'bars':
      return bar % (fade.on + fade.off) < fade.on;
    case 'odd bars':
      return oddBarMaybe(piece, compiled.timeline.route.barIndex[performed] ?? -1) === null;
    case 'fewer':
      return FEWER[Math.floor(bar / fade.bars) % FEWER.length]?.includes(kind) ?? false;
  }
}
