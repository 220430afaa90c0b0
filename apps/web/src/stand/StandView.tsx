import {
  formatMeter,
  oddBarMaybe,
  pulseOf,
  sectionStanding,
  seamsAhead,
  seamWords,
  writtenBar,
  writtenIndex,
  type PerformedSpan,
  type Proof,
  type RunMoment,
} from '@anchorbeat/core';
import { useRef, useState, useSyncExternalStore, type ReactNode } from 'react';
import type { FollowedRun } from '../room/followedRun.ts';
import { useWakeLock } from '../podium/useWakeLock.ts';
import { countdown } from '../ui/countdown.ts';
import { useEachFrame } from '../ui/useEachFrame.ts';
import { AtHome } from './AtHome.tsx';
import { CarryShape } from './NoteShape.tsx';
import { OwnSettingsSheet, SoundButton } from './OwnSettingsSheet.tsx';
import { StandLine } from './StandLine.tsx';
import { StandPad } from './StandPad.tsx';
import type { StandSession, StandSnapshot } from './standSession.ts';
import { lockWords, stateWords } from './standWords.ts';

interface StandViewProps {
  readonly session: StandSession;
  readonly onLeave: () => void;
  /** What stands at the foot instead of words and sound: of a run at home how fast, and the way to stop it. */
  readonly foot?: ReactNode;
}

/** What a player looks at: what I count, where we are, what comes next, when I come in. */
export function StandView({ session, onLeave, foot }: StandViewProps) {
  const snapshot = useSyncExternalStore(session.subscribe, session.get);
  const [isSetting, setSetting] = useState(false);
  const { view, state, run } = snapshot;
  const moment = useBeat(run);
  useWakeLock(true);
  if (view.over !== null) return <Over reason={view.over} onLeave={onLeave} />;
  const words = view.room?.words[session.stand.section];
  return (
    <main className="stand bg-ground text-ink" data-state={state} onPointerDown={() => session.wake()}>
      <div className="stand-areas">
        <header className="stand-head flex items-baseline gap-4 text-[length:var(--text)] text-quiet">
          <h1 className="truncate font-semibold">{session.stand.section}</h1>
          <span className="ml-auto truncate text-carry-text" data-testid="lock">
            {foot ? 'at home' : lockWords(view)}
          </span>
          {foot && <SoundButton onPress={() => setSetting(true)} />}
        </header>
        {run && moment ? (
          <Playing section={session.stand.section} run={run} moment={moment} />
        ) : (
          <Waiting snapshot={snapshot} section={session.stand.section} />
        )}
        {moment && session.isTapping && <StandPad session={session} />}
        <footer className="stand-foot flex min-h-12 items-center gap-4 text-[length:var(--text)]">
          {foot ?? <Foot words={words} snapshot={snapshot} onSound={() => setSetting(true)} />}
        </footer>
      </div>
      {isSetting && (
        <OwnSettingsSheet
          section={session.stand.section}
          onClose={() => setSetting(false)}
          {...(!foot && { onLeave })}
        />
      )}
    </main>
  );
}

interface FootProps {
  readonly words: string | undefined;
  readonly snapshot: StandSnapshot;
  readonly onSound: () => void;
}

function Foot({ words, snapshot, onSound }: FootProps) {
  return (
    <>
      {words ? (
        <p data-testid="words" className="min-w-0 flex-1 font-bold text-entry">
          {words}
        </p>
      ) : (
        <p className="min-w-0 flex-1 truncate text-quiet" data-testid="state">
          {stateWords(snapshot)}
        </p>
      )}
      <SoundButton onPress={onSound} />
    </>
  );
}

/** The moment of a run, anew at every beat; looked for while it goes on. */
function useBeat(run: FollowedRun | null): RunMoment | null {
  const [heard, setHeard] = useState<{ readonly run: FollowedRun; readonly moment: RunMoment | null } | null>(
    null,
  );
  const last = useRef('');
  const goesOn = run !== null && !run.isOver;
  useEachFrame(() => {
    const now = run?.momentMaybe() ?? null;
    const key = now ? `${run?.id} ${beatKey(now)}` : '';
    if (!run || key === last.current) return;
    last.current = key;
    setHeard({ run, moment: now });
  }, goesOn);
  return goesOn && heard?.run === run ? heard.moment : null;
}

function beatKey(now: RunMoment): string {
  return now.phase === 'countOff'
    ? `c${now.beatIndex} ${now.share < 0}`
    : `${now.performed} ${now.beatIndex} ${now.waits ?? ''}`;
}

interface PlayingProps {
  readonly section: string;
  readonly run: FollowedRun;
  readonly moment: RunMoment;
}

function Playing({ section, run, moment }: PlayingProps) {
  const { proof, leftOut } = run;
  if (moment.phase === 'countOff') {
    const word = run.plan.countOff.beats[moment.beatIndex]?.word ?? '';
    // Before the first beat it says what is to be done: "speak the count".
    const call = moment.share < 0 ? run.plan.call : null;
    const entry = run.entryPerformed;
    const place = { proof, leftOut };
    return (
      <>
        <p className="stand-where text-[length:var(--large)]">
          counting off <span className="text-quiet">to {barName(proof, entry)}</span>
        </p>
        {call ? (
          <p className="text-[length:var(--large)] font-extrabold text-entry">{call.word}</p>
        ) : (
          <Count big={word} isEntry />
        )}
        <div className="stand-next">
          <Entry {...place} performed={entry} section={section} isAtEntry />
        </div>
        <StandLine run={run} performed={entry} />
      </>
    );
  }
  const { performed, beatIndex, waits } = moment;
  const bar = writtenBar(proof, performed);
  const beat = pulseOf(bar)[beatIndex]?.word ?? '1';
  const { rest } = sectionStanding(proof, performed, section);
  const place = { proof, performed, leftOut };
  return (
    <>
      <p className="stand-where truncate text-[length:var(--large)]" data-testid="where">
        {rest ? (
          <>
            <span className="text-quiet">resting, bar</span>{' '}
            <b className="numeral">{`${rest.bar} of ${rest.of}`}</b>
          </>
        ) : (
          <>
            <b className="numeral">{barName(proof, performed)}</b>
            <span className="ml-3 text-quiet">{formatMeter(bar.meter)}</span>
          </>
        )}
      </p>
      {rest ? <Count big={String(rest.bar)} small={beat} /> : <Count big={beat} isEntry={waits !== null} />}
      <div className="stand-next grid grid-cols-1 content-start gap-1.5">
        {waits ? (
          <p role="status" className="text-[length:var(--large)] font-bold text-entry">
            {waits === 'for a cue' ? 'Held: watch the director' : 'and …'}
          </p>
        ) : (
          <>
            {rest && <Entry {...place} section={section} />}
            <Seam {...place} />
            {!rest && <Entry {...place} section={section} />}
          </>
        )}
      </div>
      <StandLine run={run} performed={performed} />
    </>
  );
}

interface CountProps {
  readonly big: string;
  readonly small?: string;
  readonly isEntry?: boolean;
}

/** What one counts, as large as it can be; while resting the bar, and beside it the beat. */
function Count({ big, small, isEntry = false }: CountProps) {
  return (
    <p
      data-testid="count"
      className={`stand-count numeral font-extrabold tracking-tight ${isEntry ? 'text-entry' : ''}`}
    >
      {big}
      {small && <span className="ml-[0.18em] text-[0.42em] font-semibold text-quiet">{small}</span>}
    </p>
  );
}

interface PlaceProps {
  readonly proof: Proof;
  readonly performed: number;
  readonly leftOut: readonly PerformedSpan[];
}

/** When this section comes in. At the entry of a run it is said that it plays, or for how long it does not. */
function Entry({
  proof,
  performed,
  leftOut,
  section,
  isAtEntry = false,
}: PlaceProps & { readonly section: string; readonly isAtEntry?: boolean }) {
  const { rest, next } = sectionStanding(proof, performed, section, leftOut);
  if (isAtEntry && !rest)
    return <p className="text-[length:var(--large)] font-bold text-entry">You play at once</p>;
  if (!next)
    return rest ? (
      <p className="text-[length:var(--large)] text-quiet">Nothing more to play for you</p>
    ) : null;
  const isSoon = rest !== null;
  const says = next.mark?.says ?? '';
  const when = countdown(next.inBars);
  const isEntry = isSoon || next.mark?.does === 'enters';
  return (
    <div data-testid="entry">
      <p
        className={
          isSoon
            ? 'text-[length:var(--large)] font-bold text-entry'
            : 'truncate text-[length:var(--text)] text-entry-text'
        }
      >
        {isEntry ? `You enter ${when}` : `${when}: ${says || 'your cue'}`}
      </p>
      {isSoon && (
        <p className="truncate text-[length:var(--text)] text-quiet">
          {[barName(proof, next.performed), says].filter(Boolean).join(', ')}
        </p>
      )}
    </div>
  );
}

/** The next seam in the run, with what to hold on to through it. */
function Seam({ proof, performed, leftOut }: PlaceProps) {
  const [next] = seamsAhead(proof, performed, leftOut);
  if (!next) return null;
  const { seam, inBars } = next;
  const odd = oddBarMaybe(proof.piece, writtenIndex(proof, seam.performed));
  const meter = seam.changes.includes('meter') && formatMeter(writtenBar(proof, seam.performed).meter);
  return (
    <p data-testid="seam" className="text-[length:var(--large)] leading-snug">
      <b className="numeral text-seam">{countdown(inBars)}</b>{' '}
      {[meter, odd?.words ?? (seam.carry && meter ? '' : seamWords(proof, seam))].filter(Boolean).join(', ')}{' '}
      {seam.carry && (
        <span className="ml-1 whitespace-nowrap text-carry">
          <CarryShape carry={seam.carry} />
        </span>
      )}
    </p>
  );
}

/** Between runs: what comes next, and how things are. */
function Waiting({ snapshot, section }: { readonly snapshot: StandSnapshot; readonly section: string }) {
  const { view, proof } = snapshot;
  const { room } = view;
  return (
    <div className="stand-next col-span-full row-start-2 row-end-6 grid grid-cols-1 [align-content:safe_center] gap-4">
      <p className="text-[length:calc(var(--large)*1.5)] leading-tight font-extrabold">
        {room?.next || (proof ? proof.piece.title : `Hello, ${section}`)}
      </p>
      <p className="text-[length:var(--large)] text-quiet">
        {room?.next
          ? 'comes next'
          : proof
            ? 'The director begins when everybody is there'
            : stateWords(snapshot)}
      </p>
      <AtHome section={section} />
    </div>
  );
}

function Over({ reason, onLeave }: { readonly reason: string; readonly onLeave: () => void }) {
  return (
    <main className="grid min-h-dvh content-center gap-6 bg-ground p-8 text-ink">
      <p role="alert" className="text-3xl font-bold">
        {reason}
      </p>
      <button
        type="button"
        className="justify-self-start rounded-2xl border-2 border-ink px-6 py-3 text-xl font-bold"
        onClick={onLeave}
      >
        Join a rehearsal
      </button>
      <AtHome />
    </main>
  );
}

function barName({ compiled }: Proof, performed: number): string {
  const label = compiled.labels[compiled.timeline.route.barIndex[performed] ?? 0];
  return label ? `bar ${label}` : 'the pickup';
}
