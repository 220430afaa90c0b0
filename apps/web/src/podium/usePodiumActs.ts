import {
  CLICK_CHOICES,
  clickSpanSet,
  FASTEST_PERCENT,
  leftOutToggled,
  performedCount,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
  toNumber,
  writtenBar,
  type PerformedSpan,
  type Proof,
} from '@anchorbeat/core';
import { useEffect } from 'react';
import { useStore } from 'react-redux';
import type { Store } from '@reduxjs/toolkit';
import { toast } from '../ui/toast.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import type { Playback } from '../sound/playback.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { barSelected } from '../store/mapSlice.ts';
import type { RootState } from '../store/store.ts';
import { settingsNow, takesEffectToggled } from '../store/transportSlice.ts';
import type { Act } from '../acts/act.ts';
import { nextOf } from '../ui/nextOf.ts';
import { useTaps } from '../ui/useTaps.ts';
import { PODIUM_ACT_NAMES, PODIUM_ACTS, type PodiumAct } from './acts.ts';
import { nextFade } from './fades.ts';
import { tempoAt } from './tempoAt.ts';
import { useNextPiece } from './useNextPiece.ts';

const LEVEL_STEP = 0.1;
const PERCENT_STEP = 5;
const LOOP_BARS = 4;
/** Notes over the bar, in the order one key goes through them. */
const OVERLAYS: ReadonlyArray<number | null> = [null, 3, 4, 5, 7, 2];

interface PodiumActsOptions {
  readonly onPlace: () => void;
  readonly onHand: () => void;
  readonly onSchool: () => void;
  readonly onPatterns: () => void;
  readonly onPedal: () => void;
  readonly onLevels: () => void;
  readonly onTogether: () => void;
  readonly onMicrophone: () => void;
  readonly onAlong: () => void;
  readonly onTryOn: () => void;
  readonly onSections: () => void;
}

/** What can be done at the podium. The acts look at the store when they act, not when they were drawn. */
export function usePodiumActs(options: PodiumActsOptions): Readonly<Record<PodiumAct, Act>> {
  const proof = useProof();
  const store = useStore<RootState>();
  const playback = usePlayback();
  const nextTap = useTaps();
  const nextPiece = useNextPiece();
  // What is everybody's goes on while the director looks something up.
  useEffect(() => () => playback.leave(), [playback]);
  const { piece, compiled } = proof;
  const transport = () => store.getState().transport;
  const wanted = () => settingsNow(transport());
  const entryBar = () => Math.min(store.getState().map.focusBar, piece.bars.length - 1);
  const entryPerformed = () => Math.max(0, compiled.firstPerformed[entryBar()] ?? 0);
  const countIn = (performed: number) =>
    playback
      .countIn(proof, performed, { subject: { kind: transport().triedHabit === null ? 'piece' : 'tried' } })
      .catch((error: unknown) => toast((error as Error).message));
  const goTo = (bar: number) => {
    if (playback.isRunning) return;
    store.dispatch(barSelected({ bar: Math.min(Math.max(bar, 0), piece.bars.length - 1) }));
  };
  const setPercent = (percent: number) => {
    const inside = Math.min(Math.max(Math.round(percent), SLOWEST_PERCENT), FASTEST_PERCENT);
    playback.want({ percent: inside });
  };
  const does: PodiumDoes = {
    run: () => (playback.isRunning ? playback.stop() : void countIn(entryPerformed())),
    again: () => void countIn(playback.isRunning ? playback.entryPerformed : entryPerformed()),
    onward: () => {
      const last = performedCount(compiled.timeline) - 1;
      if (!playback.isRunning) void countIn(Math.min(transport().performed, last));
    },
    barEnd: () => playback.stopAtBarEnd(),
    cue: () => playback.cue(),
    place: options.onPlace,
    slower: () => setPercent(wanted().percent - PERCENT_STEP),
    faster: () => setPercent(wanted().percent + PERCENT_STEP),
    bitSlower: () => setPercent(wanted().percent - 1),
    bitFaster: () => setPercent(wanted().percent + 1),
    printed: () => setPercent(100),
    tap: (atMs) => {
      const bpm = nextTap(atMs);
      const performed = playback.isRunning ? transport().performed : entryPerformed();
      const bar = writtenBar(proof, performed);
      if (bpm !== null) setPercent((bpm / toNumber(tempoAt(compiled.timeline, performed, bar).bpm)) * 100);
    },
    effect: () => void store.dispatch(takesEffectToggled()),
    click: () => playback.want({ clickOn: nextOf(CLICK_CHOICES, wanted().clickOn) }),
    spoken: () => playback.want({ spoken: nextOf(SPOKEN_CHOICES, wanted().spoken) }),
    overlay: () => playback.want({ overlay: nextOf(OVERLAYS, wanted().overlay) }),
    levels: options.onLevels,
    together: options.onTogether,
    tryOn: options.onTryOn,
    microphone: options.onMicrophone,
    sections: options.onSections,
    along: () => {
      if (!playback.isRunning) options.onAlong();
    },
    fade: () => playback.want({ fade: nextFade(wanted().fade) }),
    mute: () => playback.level.toggleMute(),
    louder: () => playback.level.set(playback.level.value + LEVEL_STEP),
    softer: () => playback.level.set(playback.level.value - LEVEL_STEP),
    ...spanActs(proof, store, playback, entryPerformed),
    rounds: () => playback.want({ countsEachRound: !wanted().countsEachRound }),
    earlier: () => goTo(entryBar() - 1),
    later: () => goTo(entryBar() + 1),
    start: () => goTo(0),
    nextPiece: () => (playback.stop(), void nextPiece()),
    full: () => void toggleFullScreen(),
    school: options.onSchool,
    hand: options.onHand,
    patterns: options.onPatterns,
    pedal: options.onPedal,
  };
  return actsOf(does);
}

type PodiumDoes = Readonly<Record<PodiumAct, (atMs: number) => void>>;

function actsOf(does: PodiumDoes): Readonly<Record<PodiumAct, Act>> {
  const entries = PODIUM_ACT_NAMES.map((name): [PodiumAct, Act] => [
    name,
    {
      id: `podium.${name}`,
      ...PODIUM_ACTS[name],
      does: (_, atMs = performance.now()) => does[name](atMs),
    },
  ]);
  return Object.fromEntries(entries) as Readonly<Record<PodiumAct, Act>>;
}

/** What is done with the bars selected on the map: gone round, left out, clicked otherwise. */
function spanActs(
  proof: Proof,
  store: Store<RootState>,
  playback: Playback,
  entryPerformed: () => number,
): Pick<Record<PodiumAct, () => void>, 'loop' | 'leaveOut' | 'clickHere'> {
  const settings = () => settingsNow(store.getState().transport);
  const selected = (does: (span: PerformedSpan) => void) => {
    const span = selectedSpanMaybe(proof, store.getState().map);
    if (span) does(span);
    else toast('Select some bars on the map first: shift and the arrows');
  };
  return {
    loop: () => {
      const here = playback.isRunning ? store.getState().transport.performed : entryPerformed();
      playback.want({ loop: settings().loop ? null : wantedLoop(proof, store.getState().map, here) });
    },
    leaveOut: () => selected((span) => playback.want({ leftOut: leftOutToggled(settings().leftOut, span) })),
    clickHere: () =>
      selected((span) => {
        const { clickSpans } = settings();
        const known = clickSpans.find(({ from, to }) => from === span.from && to === span.to);
        const next = nextOf(CLICKS_HERE, known?.clickOn ?? null);
        playback.want({ clickSpans: clickSpanSet(clickSpans, span, next) });
      }),
  };
}

async function toggleFullScreen(): Promise<void> {
  if (document.fullscreenElement) await document.exitFullscreen();
  else await document.documentElement.requestFullscreen().catch(() => undefined);
}

/** What one key goes through in some bars: as everywhere, then each thing the click may fall on. */
const CLICKS_HERE = [null, ...CLICK_CHOICES];

/** The bars selected on the map, as they are first performed; null where only one is. */
function selectedSpanMaybe(
  { piece, compiled }: Proof,
  { anchorBar, focusBar }: RootState['map'],
): PerformedSpan | null {
  const [first, last] = [Math.min(anchorBar, focusBar), Math.max(anchorBar, focusBar)];
  const from = compiled.firstPerformed[first] ?? -1;
  return last > first && last < piece.bars.length && from >= 0 ? { from, to: from + last - first + 1 } : null;
}

/** The bars selected on the map; where only one is, four from the one being heard or entered. */
function wantedLoop(proof: Proof, map: RootState['map'], herePerformed: number): PerformedSpan {
  const { from, to } = selectedSpanMaybe(proof, map) ?? {
    from: herePerformed,
    to: herePerformed + LOOP_BARS,
  };
  return { from, to: Math.min(performedCount(proof.compiled.timeline), to) };
}
