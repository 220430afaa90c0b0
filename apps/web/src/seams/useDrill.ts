import type { RunResponse } from '@anchorbeat/contract';
import {
  drillRunMaybe,
  FASTEST_PERCENT,
  isRestDue,
  MOST_CONTEXT_BARS,
  printedBpmMaybe,
  SLOWEST_PERCENT,
  WAYS,
  type Drilled,
  type DrillSettings,
  type DrillWay,
  type Mark,
} from '@anchorbeat/core';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { useProof } from '../app/PieceLayout.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { logRun } from '../store/runLog.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { uuid } from '../store/uuid.ts';
import type { Target } from './target.ts';

/** What a single run does otherwise than the drill as it is set. */
export interface RunWishes {
  readonly drill?: DrillSettings;
  readonly way?: DrillWay;
  readonly sections?: readonly string[];
  readonly goalPercent?: number;
  readonly ratingBefore?: number | null;
}

export interface Drilling {
  readonly drill: DrillSettings;
  readonly change: (changes: Partial<DrillSettings>) => void;
  readonly isRunning: boolean;
  readonly start: (wishes?: RunWishes) => Promise<void>;
  readonly stop: () => void;
  /** Marks the run that sounds, which ends it, or else the last one. */
  readonly mark: (mark: Mark) => void;
  /** Changes what the log says of the last run. */
  readonly amend: (changes: Partial<Pick<RunResponse, 'ratingAfter' | 'note'>>) => void;
  /** The last run that went into the log. */
  readonly last: RunResponse | null;
  readonly isRestDue: boolean;
}

interface SoundingRun {
  readonly run: RunResponse;
  readonly startedAt: number;
  hasEntered: boolean;
}

/** Runs what is being looked at and logs each run once it has gone past its count-off. */
export function useDrill(
  target: Target | null,
  drill: DrillSettings,
  setDrill: (drill: DrillSettings) => void,
): Drilling {
  const proof = useProof();
  const playback = usePlayback();
  const dispatch = useAppDispatch();
  const pieceId = useAppSelector((state) => state.piece.open?.id ?? '');
  const status = useAppSelector((state) => state.transport.status);
  const sounding = useRef<SoundingRun | null>(null);
  const drilled = useRef<Drilled[]>([]);
  const [lastRun, setLast] = useState<RunResponse | null>(null);
  const last = lastRun && target && isAt(lastRun, target) ? lastRun : null;
  const [restDue, setRestDue] = useState(false);
  const log = (run: RunResponse) => {
    setLast(run);
    logRun(dispatch, pieceId, run);
  };
  const close = (mark: Mark | null) => {
    const ended = sounding.current;
    sounding.current = null;
    if (!ended) return;
    const lengthSeconds = Math.max(0, (Date.now() - ended.startedAt) / 1000);
    drilled.current = [
      ...drilled.current.slice(-200),
      { startSeconds: ended.startedAt / 1000, lengthSeconds },
    ];
    setRestDue(isRestDue(drilled.current));
    if (ended.hasEntered || mark) log({ ...ended.run, mark, lengthSeconds });
  };
  useEffect(() => {
    if (status === 'running' && sounding.current) sounding.current.hasEntered = true;
    if (status === 'stopped') close(null);
  });
  useEffect(() => () => playback.stop(), [playback]);
  const start = async (wishes: RunWishes = {}) => {
    if (!target) return;
    const wanted = wishes.drill ?? drill;
    const run = drillRunMaybe(proof.compiled, target.place, wanted);
    if (!run) {
      toast('This place is never performed: look at the repeats and jumps');
      return;
    }
    close(null);
    const now = Date.now();
    const way = wishes.way ?? 'play';
    sounding.current = {
      startedAt: now,
      hasEntered: false,
      run: {
        id: uuid(),
        placeKind: target.kind,
        barIndex: target.place.barIndex,
        label: target.place.label,
        bars: target.place.bars,
        drillId: null,
        way,
        percent: wanted.percent,
        goalPercent: wishes.goalPercent ?? 100,
        bpm: bpmAt(printedBpmMaybe(proof.piece, proof.compiled, target.place), wanted.percent),
        mark: null,
        sections: wishes.sections ?? [],
        note: '',
        ratingBefore: wishes.ratingBefore ?? null,
        ratingAfter: null,
        startedAt: new Date(now).toISOString(),
        lengthSeconds: 0,
      },
    };
    await playback
      .countIn(proof, run.from, { settings: run.settings, call: WAYS[way].call })
      .catch((error: unknown) => toast((error as Error).message));
  };
  const stop = () => {
    close(null);
    playback.stop();
  };
  return {
    drill,
    isRunning: status !== 'stopped',
    start,
    stop,
    last,
    isRestDue: restDue,
    change: (changes) => {
      const next = inReach({ ...drill, ...changes });
      setDrill(next);
      const run = target && drillRunMaybe(proof.compiled, target.place, next);
      if (run) playback.wantInDrill(run.settings);
    },
    mark: (mark) => {
      if (sounding.current) {
        close(mark);
        playback.stop();
      } else if (last) log({ ...last, mark });
      else toast('Run it first: space');
    },
    amend: (changes) => {
      if (last) log({ ...last, ...changes });
    },
  };
}

function isAt(run: RunResponse, { kind, place }: Target): boolean {
  return run.placeKind === kind && run.barIndex === place.barIndex && run.bars === place.bars;
}

function bpmAt(printedBpm: number | null, percent: number): number | null {
  return printedBpm === null ? null : Math.round(printedBpm * percent) / 100;
}

function inReach(drill: DrillSettings): DrillSettings {
  const bars = (count: number) => Math.min(Math.max(count, 0), MOST_CONTEXT_BARS);
  return {
    ...drill,
    percent: Math.min(Math.max(drill.percent, SLOWEST_PERCENT), FASTEST_PERCENT),
    context: { before: bars(drill.context.before), after: bars(drill.context.after) },
  };
}
