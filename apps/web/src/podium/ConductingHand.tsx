import {
  conductedBeats,
  handAt,
  type ConductedBeat,
  type HandPlace,
  type HandStyle,
  type Proof,
  type RunPlan,
  type RunWindow,
} from '@anchorbeat/core';
import { useRef } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { MOVING, placeAt } from '../ui/placeAt.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useIsSounding } from '../sound/useIsSounding.ts';
import { useEachFrame } from '../ui/useEachFrame.ts';

const SIZE = 220;
const SCALE = 96;
const BASE_Y = 168;
const TRAIL = 22;
const TRAIL_STEP_SECONDS = 0.016;

/** The hand as it beats, with a short trail; it lies still while nothing runs. */
export function ConductingHand({ style }: { readonly style: HandStyle }) {
  const proof = useProof();
  const playback = usePlayback();
  const isSounding = useIsSounding();
  const dot = useRef<SVGCircleElement>(null);
  const trail = useRef<SVGPolylineElement>(null);
  const planned = useRef<PlannedBeats | null>(null);
  useEachFrame(() => {
    const { plan } = playback;
    const seconds = playback.runSecondsMaybe();
    const isShown = plan !== null && seconds !== null;
    if (trail.current) trail.current.style.visibility = isShown ? 'visible' : 'hidden';
    if (!isShown) return placeAt(dot.current, null);
    planned.current = beatsAround(proof, plan, seconds, planned.current);
    const { beats } = planned.current;
    placeAt(dot.current, pointOf(handAt(beats, seconds, style)));
    const points = Array.from({ length: TRAIL }, (_, index) =>
      pointOf(handAt(beats, seconds - index * TRAIL_STEP_SECONDS, style)),
    );
    trail.current?.setAttribute('points', points.map(({ x, y }) => `${x},${y}`).join(' '));
  }, isSounding);
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className={`podium-hand h-[min(30cqh,15rem)] shrink-0 ${MOVING}`}
      role="img"
      aria-label="The conducting hand"
      data-testid="hand"
    >
      <path d={`M16 ${BASE_Y}H${SIZE - 16}`} stroke="var(--faint)" strokeWidth={2} />
      <polyline
        ref={trail}
        fill="none"
        stroke="var(--entry)"
        strokeWidth={5}
        strokeLinecap="round"
        strokeOpacity={0.45}
      />
      <circle ref={dot} r={11} fill="var(--entry)" style={{ visibility: 'hidden' }} />
    </svg>
  );
}

/** The beats of a run around a moment. */
interface PlannedBeats {
  readonly plan: RunPlan;
  readonly beats: readonly ConductedBeat[];
  readonly window: RunWindow;
}

const WINDOW_SECONDS = 60;
const MARGIN_SECONDS = 12;

/** Those that are known while they reach far enough; else those of another minute. */
function beatsAround(proof: Proof, plan: RunPlan, seconds: number, known: PlannedBeats | null): PlannedBeats {
  const isNear = known !== null && seconds < known.window.toSeconds - MARGIN_SECONDS;
  if (isNear && known.plan === plan && seconds > known.window.fromSeconds + MARGIN_SECONDS / 2) return known;
  const window = { fromSeconds: seconds - MARGIN_SECONDS, toSeconds: seconds + WINDOW_SECONDS };
  return { plan, window, beats: conductedBeats(proof, plan, window) };
}

function pointOf({ x, y }: HandPlace) {
  return { x: SIZE / 2 + x * SCALE, y: BASE_Y - y * SCALE * 1.35 };
}
