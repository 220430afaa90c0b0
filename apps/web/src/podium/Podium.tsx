import { passWords, pulseOf, writtenBar, writtenIndex, type Bar } from '@anchorbeat/core';
import { useState } from 'react';
import { useActs } from '../acts/ActsContext.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { useInputs } from '../input/Inputs.tsx';
import { TempoText } from '../line/NoteText.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useAppSelector } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { ConductingHand } from './ConductingHand.tsx';
import { CountLine } from './CountLine.tsx';
import { HearingNote } from './HearingNote.tsx';
import { LevelsDialog } from './LevelsDialog.tsx';
import { MeterFigure } from './MeterFigure.tsx';
import { NextEntry } from './NextEntry.tsx';
import { NextSeam } from './NextSeam.tsx';
import { PatternSheet } from './PatternSheet.tsx';
import { PodiumKeys } from './PodiumKeys.tsx';
import { PodiumLine } from './PodiumLine.tsx';
import { RunClock } from './RunClock.tsx';
import { RunWishes } from './RunWishes.tsx';
import { soundingTempoAt } from './tempoAt.ts';
import { useCountSchool } from './useCountSchool.ts';
import { useHandStyle } from './useHandStyle.ts';
import { usePodiumActs } from './usePodiumActs.ts';
import { useTypedPlace } from './useTypedPlace.ts';
import { useWakeLock } from './useWakeLock.ts';

/** In front of the ensemble: where we are, what is beaten, what comes next. Everything answers to one key. */
export function Podium() {
  usePlaceTheme('hall');
  const proof = useProof();
  const { piece, compiled } = proof;
  const { status, performed: heard, settings } = useAppSelector((state) => state.transport);
  const entryBar = Math.min(
    useAppSelector((state) => state.map.focusBar),
    piece.bars.length - 1,
  );
  const isRunning = status !== 'stopped';
  const performed = isRunning ? heard : Math.max(0, compiled.firstPerformed[entryBar] ?? 0);
  const barIndex = writtenIndex(proof, performed);
  const bar = writtenBar(proof, performed);
  const place = useTypedPlace();
  const [opened, setOpened] = useState<'patterns' | 'levels' | null>(null);
  const [hand, setHand] = useHandStyle();
  const [schoolId, nextSchool] = useCountSchool();
  const { hasScreenPedals, toggleScreenPedals } = useInputs();
  const acts = usePodiumActs({
    onPlace: place.begin,
    onPatterns: () => setOpened('patterns'),
    onLevels: () => setOpened('levels'),
    onPedal: toggleScreenPedals,
    onSchool: nextSchool,
    onHand: () => setHand({ ...hand, isShown: !hand.isShown }),
  });
  useActs('typing', [], place.onKey);
  useActs('screen', Object.values(acts));
  useWakeLock(isRunning);
  return (
    <main className="relative flex h-full flex-col overflow-hidden px-10 pt-6">
      <header className="flex items-baseline gap-5 text-[2rem] leading-tight">
        <h1 className="text-[2.6rem] font-extrabold whitespace-nowrap">
          {barTitle(compiled.labels[barIndex])}
        </h1>
        <span className="whitespace-nowrap text-quiet">
          {[passWords(compiled.timeline.route, performed), markBefore(piece.bars, barIndex)]
            .filter(Boolean)
            .join(' · ')}
        </span>
        <span className="ml-auto min-w-0 truncate text-quiet">{piece.title}</span>
        <RunClock performed={performed} />
      </header>
      <div className="flex min-h-0 flex-1 items-center gap-12">
        <BigBeat bar={bar} />
        <div className="min-w-0 flex-1">
          <div className="flex flex-wrap items-center gap-x-10">
            <MeterFigure meter={bar.meter} />
            <span className="text-[2.9rem] font-bold">
              <TempoText tempo={soundingTempoAt(compiled.timeline, performed, bar, settings.percent)} />
            </span>
            <RunWishes />
          </div>
          <CountLine bar={bar} schoolId={schoolId} />
          <Next performed={performed} />
        </div>
        {hand.isShown && <ConductingHand style={hand.style} />}
      </div>
      <PodiumLine performed={performed} />
      <PodiumKeys isRunning={isRunning} typed={place.typed} acts={acts} />
      {opened === 'levels' && <LevelsDialog onClose={() => setOpened(null)} />}
      {!hasScreenPedals && <HearingNote />}
      {opened === 'patterns' && (
        <PatternSheet
          style={hand.style}
          onStyle={(style) => setHand({ ...hand, style })}
          onClose={() => setOpened(null)}
        />
      )}
    </main>
  );
}

/** The beat, at least a quarter of the screen high; the count while counting off. */
function BigBeat({ bar }: { readonly bar: Bar }) {
  const { status, beatIndex, waits } = useAppSelector((state) => state.transport);
  const playback = usePlayback();
  const isCounting = status === 'countOff';
  const word = isCounting ? playback.plan?.countOff.beats[beatIndex]?.word : pulseOf(bar)[beatIndex]?.numeral;
  const isStopped = status === 'stopped' || status === 'starting';
  return (
    <div
      data-testid="big-beat"
      className={`numeral w-[34vh] shrink-0 text-center text-[min(44vh,32vw)] leading-[0.8] font-extrabold tracking-tight ${
        isCounting || waits ? 'text-entry' : isStopped ? 'text-quiet' : 'text-ink'
      }`}
    >
      {isStopped ? (pulseOf(bar)[0]?.numeral ?? 1) : word}
    </div>
  );
}

/** While the music is held, that and nothing else is what comes next. */
function Next({ performed }: { readonly performed: number }) {
  const waits = useAppSelector((state) => state.transport.waits);
  if (waits)
    return (
      <p role="status" className="mt-5 min-h-[7rem] text-[2.6rem] font-bold text-entry">
        {waits === 'for a cue' ? 'Holding for your cue' : 'and …'}
      </p>
    );
  return (
    <>
      <NextSeam performed={performed} />
      <NextEntry performed={performed} />
    </>
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
