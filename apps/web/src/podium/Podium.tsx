import { passWords, pulseOf, writtenBar, writtenIndex, type Bar } from '@anchorbeat/core';
import { useRef, useState } from 'react';
import type { Act } from '../acts/act.ts';
import { useActs } from '../acts/ActsContext.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { useInputs } from '../input/Inputs.tsx';
import { TempoText } from '../line/NoteText.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useListEnsemblesQuery } from '../store/api.ts';
import { useAppSelector } from '../store/store.ts';
import { settingsNow } from '../store/transportSlice.ts';
import { useTransport } from '../store/useTransport.ts';
import { SectionsGlance, StandsGlance } from '../together/StandsGlance.tsx';
import { useRehearsal } from '../together/useRehearsal.ts';
import { useSectionTakes, type SectionTakes } from '../together/useSectionTakes.ts';
import { MicrophoneDialog } from '../takes/MicrophoneDialog.tsx';
import { TapPad } from '../takes/TapPad.tsx';
import { ToldTake } from '../takes/ToldTake.tsx';
import { usePlayingAlong } from '../takes/playingAlong.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { ConductingHand } from './ConductingHand.tsx';
import { CountLine } from './CountLine.tsx';
import { LevelsDialog } from './LevelsDialog.tsx';
import { MeterFigure } from './MeterFigure.tsx';
import { NextEntry } from './NextEntry.tsx';
import { NextSeam } from './NextSeam.tsx';
import { PatternSheet } from './PatternSheet.tsx';
import './podium.css';
import { PlayersDialog } from './PlayersDialog.tsx';
import { PodiumKeys } from './PodiumKeys.tsx';
import { PodiumLine } from './PodiumLine.tsx';
import { RunClock } from './RunClock.tsx';
import { RunWishes } from './RunWishes.tsx';
import { SetStrip } from './SetStrip.tsx';
import { soundingTempoAt } from './tempoAt.ts';
import { useCountSchool } from './useCountSchool.ts';
import { useHandStyle } from './useHandStyle.ts';
import { usePlannedTempo } from './usePlannedTempo.ts';
import { usePodiumActs } from './usePodiumActs.ts';
import { useSet } from './useSet.ts';
import { useTypedPlace } from './useTypedPlace.ts';
import { useWakeLock } from './useWakeLock.ts';
import { lazyPart } from '../ui/lazyNamed.tsx';

const TogetherDialog = lazyPart('TogetherDialog', () => import('../together/TogetherDialog.tsx'));

const SectionsPlayed = lazyPart('SectionsPlayed', () => import('../together/SectionsPlayed.tsx'));

/** What is beaten here, as fast as it is run. */
function SoundingTempo({ performed, bar }: { readonly performed: number; readonly bar: Bar }) {
  const { compiled } = useProof();
  const percent = useAppSelector(({ transport }) => settingsNow(transport).percent);
  return <TempoText tempo={soundingTempoAt(compiled.timeline, performed, bar, percent)} />;
}

/** In front of the ensemble: where we are, what is beaten, what comes next. Everything answers to one key. */
export function Podium() {
  usePlaceTheme('hall');
  const proof = useProof();
  const { piece, compiled } = proof;
  const { status, waits, ...heard } = useTransport('status', 'performed', 'waits');
  const entryBar = Math.min(
    useAppSelector((state) => state.map.focusBar),
    piece.bars.length - 1,
  );
  const isRunning = status !== 'stopped';
  const performed = isRunning ? heard.performed : Math.max(0, compiled.firstPerformed[entryBar] ?? 0);
  const bar = writtenBar(proof, performed);
  const place = useTypedPlace();
  const [opened, setOpened] = useState<SheetName | null>(null);
  const [hand, setHand] = useHandStyle();
  const [schoolId, nextSchool] = useCountSchool();
  const { toggleScreenPedals } = useInputs();
  const along = usePlayingAlong();
  const acts = usePodiumActs({
    onPlace: place.begin,
    onPatterns: () => setOpened('patterns'),
    onLevels: () => setOpened('levels'),
    onTogether: () => setOpened('together'),
    onMicrophone: () => setOpened('microphone'),
    onAlong: along.next,
    onTryOn: () => setOpened('players'),
    onSections: () => setOpened('sections'),
    onPedal: toggleScreenPedals,
    onSchool: nextSchool,
    onHand: () => setHand({ ...hand, isShown: !hand.isShown }),
  });
  useActs('typing', [], place.onKey);
  useActs('screen', Object.values(acts));
  useWakeLock(isRunning);
  usePlannedTempo();
  useRehearsal(proof);
  const played = useSectionTakes(proof);
  const set = useSet();
  return (
    <div className="flex h-full flex-col">
      {set && <SetStrip key={set.at} set={set} next={acts.nextPiece} />}
      <main className="podium relative min-h-0 w-full flex-1 overflow-hidden">
        <div className="podium-areas">
          <PodiumHead performed={performed} acts={acts} played={isRunning ? null : played} />
          <BigBeat bar={bar} run={acts.run} cue={acts.cue} isTapped={along.isOn} />
          <div className="podium-facts min-w-0">
            <div className="podium-asked flex flex-wrap items-center gap-x-[clamp(1rem,3cqw,2.5rem)]">
              <div className="podium-tempo flex flex-wrap items-center gap-x-[clamp(1rem,3cqw,2.5rem)]">
                <MeterFigure meter={bar.meter} />
                <span className="text-[clamp(min(1.5rem,9cqw,max(24px,5.5cqh)),6cqmin,2.9rem)] font-bold">
                  <SoundingTempo performed={performed} bar={bar} />
                </span>
              </div>
              <RunWishes />
            </div>
            <CountLine performed={performed} schoolId={schoolId} />
          </div>
          <div className={`podium-next min-w-0 ${along.isOn ? 'podium-along' : ''}`}>
            {along.isOn && <TapPad isShown={!waits} />}
            <Next performed={performed} />
          </div>
          {/* Whoever taps along looks at what comes next, not at the hand. */}
          {hand.isShown && !along.isOn && <ConductingHand style={hand.style} />}
          <PodiumLine performed={performed} />
          <PodiumKeys isRunning={isRunning} typed={place.typed} acts={acts} />
        </div>
        <ToldTake />
        {opened && (
          <Sheet
            sheet={opened}
            played={played}
            hand={hand}
            onHand={setHand}
            onClose={() => setOpened(null)}
          />
        )}
      </main>
    </div>
  );
}

interface PodiumHeadProps {
  readonly performed: number;
  readonly acts: ReturnType<typeof usePodiumActs>;
  /** What the stands tapped along with the run that has just ended. */
  readonly played: SectionTakes | null;
}

/** Where we are, whether the stands go together or what they played, and how long it lasts. */
function PodiumHead({ performed, acts, played }: PodiumHeadProps) {
  const proof = useProof();
  const { piece, compiled } = proof;
  const barIndex = writtenIndex(proof, performed);
  return (
    <header className="podium-head flex min-w-0 items-baseline gap-x-5 text-[length:var(--large)] leading-tight">
      <h1 className="text-[1.2em] font-extrabold whitespace-nowrap">{barTitle(compiled.labels[barIndex])}</h1>
      <span className="min-w-0 truncate whitespace-nowrap text-quiet">
        {[passWords(compiled.timeline.route, performed), markBefore(piece.bars, barIndex)]
          .filter(Boolean)
          .join(' · ')}
      </span>
      <span className="podium-title ml-auto min-w-0 truncate text-quiet">{piece.title}</span>
      {played ? (
        <SectionsGlance act={acts.sections} proof={proof} played={played} />
      ) : (
        <StandsGlance act={acts.together} />
      )}
      <span className="podium-clock ml-auto">
        <RunClock performed={performed} />
      </span>
    </header>
  );
}

type SheetName = 'players' | 'patterns' | 'levels' | 'microphone' | 'together' | 'sections';

interface SheetProps {
  readonly sheet: SheetName;
  readonly played: SectionTakes | null;
  readonly hand: ReturnType<typeof useHandStyle>[0];
  readonly onHand: ReturnType<typeof useHandStyle>[1];
  readonly onClose: () => void;
}

/** What is opened over the podium. */
function Sheet({ sheet, played, hand, onHand, onClose }: SheetProps) {
  const proof = useProof();
  const ensembleId = useAppSelector((state) => state.piece.open?.ensembleId);
  const ensemble = useListEnsemblesQuery().data?.find(({ id }) => id === ensembleId);
  switch (sheet) {
    case 'levels':
      return <LevelsDialog onClose={onClose} />;
    case 'players':
      return <PlayersDialog onClose={onClose} />;
    case 'microphone':
      return <MicrophoneDialog onClose={onClose} />;
    case 'patterns':
      return (
        <PatternSheet style={hand.style} onStyle={(style) => onHand({ ...hand, style })} onClose={onClose} />
      );
    case 'sections':
      return <SectionsPlayed proof={proof} played={played} onClose={onClose} />;
    case 'together':
      return ensemble ? <TogetherDialog ensemble={ensemble} onClose={onClose} /> : null;
  }
}

interface BigBeatProps {
  readonly bar: Bar;
  readonly run: Act;
  readonly cue: Act;
  /** It is where one taps along. */
  readonly isTapped: boolean;
}

/** A press this long ends what sounds: a hand that brushes the screen does not. */
const STOP_PRESS_MS = 300;

/**
 * The beat, at least a quarter of the screen high; the count while counting off. A hand that holds a baton can press it: it
 * counts in, cues out of a hold, and pressed for a moment it stops. Where one plays along it is what one taps.
 */
function BigBeat({ bar, run, cue, isTapped }: BigBeatProps) {
  const { status, beatIndex, waits } = useTransport('status', 'beatIndex', 'waits');
  const playback = usePlayback();
  const pressed = useRef(0);
  const isCounting = status === 'countOff';
  const word = isCounting ? playback.plan?.countOff.beats[beatIndex]?.word : pulseOf(bar)[beatIndex]?.word;
  const isStopped = status === 'stopped' || status === 'starting';
  const release = () => window.clearTimeout(pressed.current);
  return (
    <div
      data-testid="big-beat"
      className={`podium-beat numeral touch-manipulation text-center font-extrabold tracking-tight select-none ${
        isCounting || waits ? 'text-entry' : isStopped ? 'text-quiet' : 'text-ink'
      }`}
      onClick={() => {
        if (status === 'stopped') run.does();
        else if (waits) cue.does();
      }}
      onPointerDown={(event) => {
        if (isStopped || waits) return;
        if (isTapped) {
          playback.tap(event.timeStamp);
          return;
        }
        pressed.current = window.setTimeout(() => run.does(), STOP_PRESS_MS);
      }}
      onPointerUp={release}
      onPointerCancel={release}
      onPointerLeave={release}
    >
      {isStopped ? (pulseOf(bar)[0]?.word ?? '1') : word}
    </div>
  );
}

/** While the music is held, that and nothing else is what comes next. */
function Next({ performed }: { readonly performed: number }) {
  const waits = useAppSelector((state) => state.transport.waits);
  if (waits)
    return (
      <p role="status" className="mt-3 text-[length:calc(var(--large)*1.2)] font-bold text-entry">
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
