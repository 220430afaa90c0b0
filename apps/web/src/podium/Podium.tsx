import { passWords, pulseOf, type Bar } from '@anchorbeat/core';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { useProof } from '../app/PieceLayout.tsx';
import { readPlace } from '../map/entries.ts';
import { TempoText } from '../line/NoteText.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { barSelected } from '../store/mapSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { MeterFigure } from './MeterFigure.tsx';
import { NextSeam } from './NextSeam.tsx';
import { PodiumKeys } from './PodiumKeys.tsx';
import { PodiumLine } from './PodiumLine.tsx';
import { tempoAt } from './tempoAt.ts';

const LEVEL_STEP = 0.1;

/** In front of the ensemble: where we are, what is beaten, what comes next. Everything answers to one key. */
export function Podium() {
  usePlaceTheme('hall');
  const { piece, compiled } = useProof();
  const transport = useAppSelector((state) => state.transport);
  const entryBar = Math.min(
    useAppSelector((state) => state.map.focusBar),
    piece.bars.length - 1,
  );
  const isRunning = transport.status !== 'stopped';
  const performed = isRunning ? transport.performed : Math.max(0, compiled.firstPerformed[entryBar] ?? 0);
  const barIndex = compiled.timeline.route.barIndex[performed] ?? 0;
  const bar = piece.bars[barIndex] as Bar;
  const typed = usePodiumKeys(entryBar);
  return (
    <main className="flex h-full flex-col overflow-hidden px-10 pt-6">
      <header className="text-[2rem] leading-tight">
        <h1 className="inline text-[2.6rem] font-extrabold">{barTitle(compiled.labels[barIndex])}</h1>
        <span className="ml-4 text-quiet">
          {[passWords(compiled.timeline.route, performed), markBefore(piece.bars, barIndex)]
            .filter(Boolean)
            .join(' · ')}
        </span>
        <span className="float-right text-quiet">{piece.title}</span>
      </header>
      <div className="flex min-h-0 flex-1 items-center gap-12">
        <BigBeat bar={bar} />
        <div className="min-w-0 flex-1">
          <div className="flex items-center gap-10">
            <MeterFigure meter={bar.meter} />
            <span className="text-[2.9rem] font-bold">
              <TempoText tempo={tempoAt(compiled.timeline, performed, bar)} />
            </span>
          </div>
          <NextSeam performed={performed} />
        </div>
      </div>
      <PodiumLine performed={performed} />
      <PodiumKeys isRunning={isRunning} typed={typed} />
    </main>
  );
}

/** The beat, at least a quarter of the screen high; the count while counting off. */
function BigBeat({ bar }: { readonly bar: Bar }) {
  const { status, beatIndex } = useAppSelector((state) => state.transport);
  const playback = usePlayback();
  const isCounting = status === 'countOff';
  const word = isCounting ? playback.plan?.countOff.beats[beatIndex]?.word : pulseOf(bar)[beatIndex]?.numeral;
  const isStopped = status === 'stopped' || status === 'starting';
  return (
    <div
      data-testid="big-beat"
      className={`numeral w-[36vh] shrink-0 text-center text-[min(52vh,34vw)] leading-[0.8] font-extrabold tracking-tight ${
        isCounting ? 'text-entry' : isStopped ? 'text-quiet' : 'text-ink'
      }`}
    >
      {isStopped ? (pulseOf(bar)[0]?.numeral ?? 1) : word}
    </div>
  );
}

function barTitle(label: string | null | undefined): string {
  return label ? `Bar ${label}` : 'Pickup';
}

/** "A", or "3 after A", from the last rehearsal mark. */
function markBefore(bars: readonly Bar[], barIndex: number): string {
  for (let index = barIndex; index >= 0; index--) {
    const mark = bars[index]?.rehearsalMark;
    if (mark !== undefined) return index === barIndex ? mark : `${barIndex - index} after ${mark}`;
  }
  return '';
}

/** Runs and stops, moves the entry, finds a typed bar, sets the level. Gives what has been typed so far. */
function usePodiumKeys(entryBar: number): string {
  const proof = useProof();
  const { piece, compiled } = proof;
  const dispatch = useAppDispatch();
  const playback = usePlayback();
  const [typed, setTyped] = useState('');
  useEffect(() => () => playback.stop(), [playback]);
  const goTo = (bar: number) => {
    if (!playback.isRunning)
      dispatch(barSelected({ bar: Math.min(Math.max(bar, 0), piece.bars.length - 1) }));
  };
  const acts: Readonly<Record<string, () => void>> = {
    ' ': () => {
      if (playback.isRunning) playback.stop();
      else
        playback
          .countIn(proof, Math.max(0, compiled.firstPerformed[entryBar] ?? 0))
          .catch((error: unknown) => toast(String((error as Error).message)));
    },
    ArrowLeft: () => goTo(entryBar - 1),
    ArrowRight: () => goTo(entryBar + 1),
    Home: () => goTo(0),
    ArrowUp: () => playback.setLevel(playback.level + LEVEL_STEP),
    ArrowDown: () => playback.setLevel(playback.level - LEVEL_STEP),
    Escape: () => setTyped(''),
    Backspace: () => setTyped(typed.slice(0, -1)),
    Enter: () => {
      const place = readPlace(typed, { piece });
      setTyped('');
      if (!place.ok) toast(place.problem.message);
      else if (place.value.kind === 'go') goTo(place.value.bar);
    },
  };
  useKeys(({ key, command }) => {
    if (command) return false;
    if (/^[0-9a-z]$/.test(key)) setTyped(`${typed}${key}`.slice(0, 8));
    else if (acts[key]) acts[key]();
    else return false;
    return true;
  });
  return typed;
}
