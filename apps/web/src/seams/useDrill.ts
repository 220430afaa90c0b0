import type { RunResponse } from '@anchorbeat/contract';
import {
  drillRunMaybe,
  FASTEST_PERCENT,
  isRestDue,
  MOST_CONTEXT_BARS,
  printedBpmMaybe,
  SLOWEST_PERCENT,
  WAYS,
  type DrillSettings,
  type DrillWay,
  type Mark,
} from '@anchorbeat/core';
import { useEffect } from 'react';
import { toast } from '../ui/toast.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { amendLastRun } from '../store/runLogging.ts';
import { useAppDispatch } from '../store/store.ts';
import { runMarked, type DrillSubject } from '../store/transportSlice.ts';
import { useTransport } from '../store/useTransport.ts';
import type { Target } from './target.ts';

/** What a single run does otherwise than the drill as it is set. */
interface RunWishes {
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
  /** The last run of this place that went into the log. */
  readonly last: RunResponse | null;
  readonly isRestDue: boolean;
}

/** Starts and stops runs of what is being looked at. What becomes of them is the store's to keep. */
export function useDrill(
  target: Target | null,
  drill: DrillSettings,
  setDrill: (drill: DrillSettings) => void,
): Drilling {
  const proof = useProof();
  const playback = usePlayback();
  const dispatch = useAppDispatch();
  const { run, lastLogged, drilled } = useTransport('run', 'lastLogged', 'drilled');
  const last = lastLogged && target && isAt(lastLogged.run, target) ? lastLogged : null;
  useEffect(() => () => playback.stop(), [playback]);
  const start = async (wishes: RunWishes = {}) => {
    if (!target) return;
    const wanted = wishes.drill ?? drill;
    const drillRun = drillRunMaybe(proof.compiled, target.place, wanted);
    if (!drillRun) {
      toast('This place is never performed: look at the repeats and jumps');
      return;
    }
    const way = wishes.way ?? 'play';
    const subject: DrillSubject = {
      kind: 'drill',
      place: { ...target.place, kind: target.kind },
      way,
      percent: wanted.percent,
      goalPercent: wishes.goalPercent ?? 100,
      bpm: bpmAt(printedBpmMaybe(proof, target.place), wanted.percent),
      sections: wishes.sections ?? [],
      ratingBefore: wishes.ratingBefore ?? null,
    };
    await playback
      .countIn(proof, drillRun.from, { subject, settings: drillRun.settings, call: WAYS[way].call })
      .catch((error: unknown) => toast((error as Error).message));
  };
  return {
    drill,
    isRunning: run !== null,
    start,
    stop: () => playback.stop(),
    last: last?.run ?? null,
    isRestDue: isRestDue(drilled),
    change: (changes) => {
      const next = inReach({ ...drill, ...changes });
      setDrill(next);
      const changed = target && drillRunMaybe(proof.compiled, target.place, next);
      if (changed) playback.wantInDrill(changed.settings);
    },
    mark: (mark) => {
      if (run?.subject.kind === 'drill') {
        dispatch(runMarked(mark));
        playback.stop();
      } else if (!amendLastRun(dispatch, last, { mark })) toast('Run it first: space');
    },
    amend: (changes) => void amendLastRun(dispatch, last, changes),
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
