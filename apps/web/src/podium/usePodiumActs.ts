import {
  CLICK_CHOICES,
  FASTEST_PERCENT,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
  tappedTempoMaybe,
  toNumber,
  type Bar,
  type PerformedSpan,
} from '@anchorbeat/core';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { toast } from 'sonner';
import { useProof } from '../app/PieceLayout.tsx';
import { readPlace } from '../map/entries.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { barSelected } from '../store/mapSlice.ts';
import type { RootState } from '../store/store.ts';
import { takesEffectToggled } from '../store/transportSlice.ts';
import type { PodiumAct } from './acts.ts';
import { nextFade } from './fades.ts';
import { tempoAt } from './tempoAt.ts';

const LEVEL_STEP = 0.1;
const PERCENT_STEP = 5;
const LOOP_BARS = 4;
/** Notes over the bar, in the order one key goes through them. */
const OVERLAYS: ReadonlyArray<number | null> = [null, 3, 4, 5, 7, 2];

interface PodiumActsOptions {
  readonly onPlace: () => void;
  readonly onKeys: () => void;
  readonly onHand: () => void;
  readonly onSchool: () => void;
  readonly onPatterns: () => void;
  readonly onPedal: () => void;
  readonly onLevels: () => void;
}

/** What the podium's keys, pedals and buttons do. They look at the store when they act, not when they were drawn. */
export function usePodiumActs(options: PodiumActsOptions): (act: PodiumAct) => void {
  const proof = useProof();
  const store = useStore<RootState>();
  const playback = usePlayback();
  const taps = useRef<number[]>([]);
  useEffect(() => () => playback.stop(), [playback]);
  const { piece, compiled } = proof;
  const transport = () => store.getState().transport;
  const entryBar = () => Math.min(store.getState().map.focusBar, piece.bars.length - 1);
  const entryPerformed = () => Math.max(0, compiled.firstPerformed[entryBar()] ?? 0);
  const countIn = (performed: number) =>
    playback.countIn(proof, performed).catch((error: unknown) => toast((error as Error).message));
  const goTo = (bar: number) => {
    if (playback.isRunning) return;
    store.dispatch(barSelected({ bar: Math.min(Math.max(bar, 0), piece.bars.length - 1) }));
  };
  const setPercent = (percent: number) => {
    const inside = Math.min(Math.max(Math.round(percent), SLOWEST_PERCENT), FASTEST_PERCENT);
    playback.want({ percent: inside });
  };
  const acts: Readonly<Record<PodiumAct, () => void>> = {
    run: () => (playback.isRunning ? playback.stop() : void countIn(entryPerformed())),
    again: () => void countIn(playback.isRunning ? playback.entryPerformed : entryPerformed()),
    onward: () => {
      if (!playback.isRunning) void countIn(transport().performed);
    },
    barEnd: () => playback.stopAtBarEnd(),
    cue: () => playback.cue(),
    place: options.onPlace,
    slower: () => setPercent(transport().settings.percent - PERCENT_STEP),
    faster: () => setPercent(transport().settings.percent + PERCENT_STEP),
    bitSlower: () => setPercent(transport().settings.percent - 1),
    bitFaster: () => setPercent(transport().settings.percent + 1),
    printed: () => setPercent(100),
    tap: () => {
      taps.current = [...taps.current.slice(-31), performance.now()];
      const tapped = tappedTempoMaybe(taps.current);
      const performed = playback.isRunning ? transport().performed : entryPerformed();
      const bar = piece.bars[compiled.timeline.route.barIndex[performed] ?? 0] as Bar;
      if (tapped) setPercent((tapped.bpm / toNumber(tempoAt(compiled.timeline, performed, bar).bpm)) * 100);
    },
    effect: () => void store.dispatch(takesEffectToggled()),
    click: () => {
      const index = CLICK_CHOICES.indexOf(transport().settings.clickOn);
      playback.want({ clickOn: CLICK_CHOICES[(index + 1) % CLICK_CHOICES.length] ?? 'pulse' });
    },
    spoken: () => {
      const index = SPOKEN_CHOICES.indexOf(transport().settings.spoken);
      playback.want({ spoken: SPOKEN_CHOICES[(index + 1) % SPOKEN_CHOICES.length] ?? 'nothing' });
    },
    overlay: () => {
      const index = OVERLAYS.indexOf(transport().settings.overlay);
      playback.want({ overlay: OVERLAYS[(index + 1) % OVERLAYS.length] ?? null });
    },
    levels: options.onLevels,
    fade: () => playback.want({ fade: nextFade(transport().settings.fade) }),
    mute: () => playback.toggleMute(),
    louder: () => playback.setLevel(playback.level + LEVEL_STEP),
    softer: () => playback.setLevel(playback.level - LEVEL_STEP),
    loop: () => {
      const { loop } = transport().settings;
      playback.want({ loop: loop ? null : wantedLoop() });
    },
    rounds: () => playback.want({ countsEachRound: !transport().settings.countsEachRound }),
    earlier: () => goTo(entryBar() - 1),
    later: () => goTo(entryBar() + 1),
    start: () => goTo(0),
    full: () => void toggleFullScreen(),
    school: options.onSchool,
    hand: options.onHand,
    patterns: options.onPatterns,
    pedal: options.onPedal,
    keys: options.onKeys,
  };
  /** The bars selected on the map; where only one is, four from the one being heard or entered. */
  const wantedLoop = (): PerformedSpan => {
    const { anchorBar, focusBar } = store.getState().map;
    const [first, last] = [Math.min(anchorBar, focusBar), Math.max(anchorBar, focusBar)];
    const count = compiled.timeline.route.barIndex.length;
    const isSpan = last > first && last < piece.bars.length;
    const from = isSpan
      ? Math.max(0, compiled.firstPerformed[first] ?? 0)
      : playback.isRunning
        ? transport().performed
        : entryPerformed();
    return { from, to: Math.min(count, from + (isSpan ? last - first + 1 : LOOP_BARS)) };
  };
  return (act) => acts[act]();
}

async function toggleFullScreen(): Promise<void> {
  if (document.fullscreenElement) await document.exitFullscreen();
  else await document.documentElement.requestFullscreen().catch(() => undefined);
}

/** Text being typed for a place: null while none is. Digits begin it. */
export function useTypedPlace() {
  const { piece } = useProof();
  const playback = usePlayback();
  const store = useStore<RootState>();
  const [typed, setTyped] = useState<string | null>(null);
  const enter = () => {
    const place = readPlace(typed ?? '', { piece });
    setTyped(null);
    if (!place.ok) toast(place.problem.message);
    else if (place.value.kind === 'go' && !playback.isRunning)
      store.dispatch(barSelected({ bar: place.value.bar }));
  };
  const onKey = (key: string): boolean => {
    if (typed === null && !/^\d$/.test(key)) return false;
    if (key === 'Enter') enter();
    else if (key === 'Escape') setTyped(null);
    else if (key === 'Backspace') setTyped((typed ?? '').slice(0, -1));
    else if (key.length === 1) setTyped(`${typed ?? ''}${key}`.slice(0, 24));
    else return false;
    return true;
  };
  return { typed, onKey, begin: () => setTyped('') };
}
