import {
  barName,
  drillRunMaybe,
  formatMeter,
  PLAIN_DRILL,
  proofOf,
  readPiece,
  playsAround,
  seamPlace,
  seamWords,
  writtenBar,
  writtenIndex,
  type Proof,
  type Seam,
  type SharedPiece,
} from '@anchorbeat/core';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { homeDocumentMaybe, type HomePieces } from './homePieces.ts';
import { HomeLine } from './homeLine.ts';
import { OwnSettingsSheet, SoundButton } from './OwnSettingsSheet.tsx';
import { StandSession } from './standSession.ts';
import { StandView } from './StandView.tsx';

const MOST_PLACES = 6;
const FIRST_PERCENT = 60;
const STEP_PERCENT = 5;
const LEAST_PERCENT = 30;
const MOST_PERCENT = 120;

interface PracticeProps {
  readonly home: HomePieces;
  readonly onLeave: () => void;
}

/** The hard places of one's own section, alone at home: counted off, round and round, slower or faster. */
export function Practice({ home, onLeave }: PracticeProps) {
  const { line, session } = useHomeSession(home);
  const { run } = useSyncExternalStore(session.subscribe, session.get);
  const [percent, setPercent] = useState(FIRST_PERCENT);
  const [isSetting, setSetting] = useState(false);
  const paceAt = (wanted: number) => {
    const next = Math.min(MOST_PERCENT, Math.max(LEAST_PERCENT, wanted));
    setPercent(next);
    line.say({ kind: 'change', settings: { percent: next }, every: 'beat' });
  };
  const begin = ({ pieceId, revision }: SharedPiece, { compiled }: Proof, barIndex: number) => {
    session.wake();
    const drill = drillRunMaybe(compiled, seamPlace(compiled, barIndex), { ...PLAIN_DRILL, percent });
    if (!drill) return;
    const title = barName(compiled.labels, barIndex);
    const { from: performed, settings } = drill;
    line.begin({ pieceId, revision, title, settings, performed });
  };
  const pace = <Pace percent={percent} onPercent={paceAt} />;
  if (run && !run.isOver)
    return (
      <StandView
        session={session}
        onLeave={onLeave}
        foot={
          <>
            {pace}
            <button
              type="button"
              className={`${BUTTON} ml-auto bg-ink text-ground`}
              onClick={() => line.say({ kind: 'stop' })}
            >
              Stop
            </button>
          </>
        }
      />
    );
  return (
    <main className="mx-auto grid min-h-dvh max-w-[44rem] content-start gap-5 bg-ground p-5 text-ink">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1 className="text-3xl font-extrabold">Your hard places</h1>
        <span className="text-quiet">{`${home.ensembleName}, ${home.section}`}</span>
        <button type="button" className={`${BUTTON} ml-auto`} onClick={onLeave}>
          Back
        </button>
      </div>
      <div className="flex items-center gap-4 text-lg">
        {pace}
        <SoundButton onPress={() => setSetting(true)} />
      </div>
      <p className="text-quiet">
        Press a place: it is counted off and goes round until you stop it. It comes softly at first; with
        headphones keep one ear free.
      </p>
      {home.pieces.map((piece) => (
        <Places
          key={piece.pieceId}
          piece={piece}
          section={home.section}
          onBegin={(proof, barIndex) => begin(piece, proof, barIndex)}
        />
      ))}
      {isSetting && <OwnSettingsSheet section={home.section} onClose={() => setSetting(false)} />}
    </main>
  );
}

const BUTTON = 'min-h-11 shrink-0 rounded-xl border-2 border-ink px-4 py-1.5 text-lg font-semibold';

/** A room of one's own, for as long as it is looked at. */
function useHomeSession(home: HomePieces) {
  const [made] = useState(() => {
    const line = new HomeLine();
    const pieceOf = (pieceId: string) => {
      const piece = home.pieces.find((one) => one.pieceId === pieceId);
      return Promise.resolve(piece && homeDocumentMaybe(piece));
    };
    return { line, session: new StandSession(home, line, pieceOf) };
  });
  useEffect(() => () => made.session.close(), [made]);
  return made;
}

interface PaceProps {
  readonly percent: number;
  readonly onPercent: (percent: number) => void;
}

function Pace({ percent, onPercent }: PaceProps) {
  return (
    <div className="flex items-center gap-3" role="group" aria-label="Tempo">
      <button
        type="button"
        className={BUTTON}
        aria-label="Slower"
        onClick={() => onPercent(percent - STEP_PERCENT)}
      >
        −
      </button>
      <b className="numeral min-w-16 text-center text-2xl" data-testid="home-percent">
        {percent} %
      </b>
      <button
        type="button"
        className={BUTTON}
        aria-label="Faster"
        onClick={() => onPercent(percent + STEP_PERCENT)}
      >
        +
      </button>
    </div>
  );
}

interface PlacesProps {
  readonly piece: SharedPiece;
  readonly section: string;
  readonly onBegin: (proof: Proof, barIndex: number) => void;
}

function Places({ piece, section, onBegin }: PlacesProps) {
  const proof = useMemo(() => {
    const reading = readPiece(homeDocumentMaybe(piece));
    return reading.ok ? proofOf(reading.piece) : null;
  }, [piece]);
  const places = useMemo(() => (proof ? hardPlaces(proof, section) : []), [proof, section]);
  return (
    <section aria-label={piece.title}>
      <h2 className="text-xl font-bold">{piece.title}</h2>
      {!proof && <p className="text-quiet">There was no room for it on this device.</p>}
      {proof && places.length === 0 && <p className="text-quiet">No place in it is hard for you.</p>}
      <ul className="mt-2 grid gap-2">
        {proof &&
          places.map((seam) => {
            const barIndex = writtenIndex(proof, seam.performed);
            return (
              <li key={barIndex}>
                <button
                  type="button"
                  className="grid w-full grid-cols-[minmax(7rem,auto)_1fr] items-baseline gap-x-4 rounded-xl border-2 border-faint px-4 py-2.5 text-left hover:border-ink"
                  onClick={() => onBegin(proof, barIndex)}
                >
                  <b className="text-lg">into {barName(proof.compiled.labels, barIndex)}</b>
                  <span className="text-quiet">
                    {formatMeter(writtenBar(proof, seam.performed).meter)}, {seamWords(proof, seam)}
                  </span>
                </button>
              </li>
            );
          })}
      </ul>
    </section>
  );
}

/** The hardest seams at which a section plays, each written bar once; the hardest first. */
function hardPlaces(proof: Proof, section: string): readonly Seam[] {
  const byBar = new Map<number, Seam>();
  for (const seam of proof.compiled.seams) {
    const barIndex = writtenIndex(proof, seam.performed);
    if (playsAround(proof.piece, section, barIndex) && !byBar.has(barIndex)) byBar.set(barIndex, seam);
  }
  return [...byBar.values()].sort((a, b) => b.difficulty.score - a.difficulty.score).slice(0, MOST_PLACES);
}
