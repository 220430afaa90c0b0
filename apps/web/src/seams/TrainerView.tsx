import {
  barName,
  formatMeter,
  MOST_CYCLE_METERS,
  oddBarMaybe,
  otherGroupings,
  parseMeter,
  practiceRate,
  rateAt,
  TRAINER_KINDS,
  trainerPiece,
  ZERO,
  type Meter,
  type Piece,
  type Result,
  type TrainerExercise,
  type TrainerPiece,
} from '@anchorbeat/core';
import { useMemo, useState } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { TextField } from '../ui/TextField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { nextOf } from '../ui/nextOf.ts';
import { drillAct, runAct, tempoActs } from './drillActs.ts';
import { BarsDrawing } from '../line/BarsDrawing.tsx';
import type { Target } from './target.ts';
import { ActButton, ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import type { Drilling } from './useDrill.ts';
import { useExercise } from '../sound/useExercise.ts';

type Kind = TrainerExercise['kind'];

const OVERLAYS: ReadonlyArray<number | null> = [null, 2, 3, 4, 5, 7];
const ACCENTS = [2, 3, 4, 5] as const;

/** A bar of uneven length on its own: against the full one, grouped otherwise, wrong on purpose, with accents across, in a cycle. */
export function TrainerView({ target, drilling }: { readonly target: Target; readonly drilling: Drilling }) {
  const proof = useProof();
  const { piece, compiled } = proof;
  const [offset, setOffset] = useState(0);
  const barIndex = Math.min(Math.max(unevenBar(piece, target) + offset, 0), piece.bars.length - 1);
  const meter = piece.bars[barIndex]!.meter;
  const groupings = useMemo(() => otherGroupings(meter), [meter]);
  const [kind, setKind] = useState<Kind>('against the full bar');
  const [grouping, setGrouping] = useState(0);
  const [every, setEvery] = useState(3);
  const [cycleText, setCycleText] = useState(() => cycleAround(piece.bars, barIndex));
  const [overlay, setOverlay] = useState<number | null>(null);
  const cycle = useMemo(() => readCycle(cycleText), [cycleText]);
  const performed = Math.max(0, compiled.firstPerformed[barIndex] ?? 0);
  const { percent } = drilling.drill;
  const trained = useMemo((): TrainerPiece | null => {
    const exercise = exerciseOf(kind, groupings[grouping % Math.max(1, groupings.length)], every, cycle);
    const rate = practiceRate(rateAt(compiled.timeline, { performed, atWholes: ZERO }), percent);
    return exercise && trainerPiece({ piece, barIndex, rate }, exercise);
  }, [kind, groupings, grouping, every, cycle, compiled, performed, percent, piece, barIndex]);
  const vary = () => {
    if (kind === 'groupings') setGrouping(grouping + 1);
    if (kind === 'displaced') setEvery(nextOf(ACCENTS, every));
  };
  const acts = {
    back: drillAct('barBack', 'ArrowLeft', 'the bar before', () => setOffset(offset - 1), { label: '' }),
    on: drillAct('barOn', 'ArrowRight', 'the bar after', () => setOffset(offset + 1), {
      state: barName(compiled.labels, barIndex),
    }),
    exercise: drillAct('exercise', 'e', 'next exercise', () => setKind(nextOf(TRAINER_KINDS, kind))),
    vary: drillAct('vary', 'x', 'vary it', vary),
    overlay: drillAct(
      'overlay',
      'y',
      'equal notes over the bar',
      () => setOverlay(nextOf(OVERLAYS, overlay)),
      { state: overlay === null ? 'equal notes over the bar: none' : `${overlay} over the bar` },
    ),
    ...tempoActs(drilling),
  };
  useActs('view', Object.values(acts));
  return (
    <section aria-label="Meter trainer">
      <ToggleGroup
        label="Exercise"
        options={TRAINER_KINDS.map((value) => ({ value, name: value }))}
        isOn={(value) => value === kind}
        onToggle={setKind}
      />
      <Variation
        kind={kind}
        meter={meter}
        groupings={groupings}
        grouping={grouping}
        onGrouping={setGrouping}
        every={every}
        onEvery={setEvery}
        cycleText={cycleText}
        onCycleText={setCycleText}
      />
      {trained ? (
        <TrainedPiece trained={trained} overlay={overlay} />
      ) : (
        <p className="mt-6 text-problem" role="alert">
          {kind === 'cycle' && !cycle.ok
            ? cycle.problem.message
            : `${formatMeter(meter)} can be grouped in no other way.`}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-1">
        {Object.values(acts).map((act) => (
          <ActHint key={act.id} act={act} />
        ))}
      </div>
    </section>
  );
}

interface VariationProps {
  readonly kind: Kind;
  readonly meter: Meter;
  readonly groupings: ReadonlyArray<readonly number[]>;
  readonly grouping: number;
  readonly onGrouping: (grouping: number) => void;
  readonly every: number;
  readonly onEvery: (every: number) => void;
  readonly cycleText: string;
  readonly onCycleText: (text: string) => void;
}

/** What of an exercise can be chosen. */
function Variation({
  kind,
  meter,
  groupings,
  grouping,
  onGrouping,
  every,
  onEvery,
  cycleText,
  onCycleText,
}: VariationProps) {
  return (
    <div className="mt-3 min-h-10">
      {kind === 'groupings' && groupings.length > 0 && (
        <ToggleGroup
          label={`${formatMeter(meter)} in turn with`}
          options={groupings
            .slice(0, 12)
            .map((groups) => ({ value: groups.join('+'), name: groups.join('+') }))}
          isOn={(value) => groupings[grouping % groupings.length]?.join('+') === value}
          onToggle={(value) => onGrouping(groupings.findIndex((groups) => groups.join('+') === value))}
        />
      )}
      {kind === 'displaced' && (
        <ToggleGroup
          label="An accent on every"
          options={ACCENTS.map((value) => ({ value: String(value), name: String(value) }))}
          isOn={(value) => String(every) === value}
          onToggle={(value) => onEvery(Number(value))}
        />
      )}
      {kind === 'cycle' && (
        <TextField label="Meters in turn" value={cycleText} onText={onCycleText} maxLength={120} />
      )}
    </div>
  );
}

function TrainedPiece({
  trained,
  overlay,
}: {
  readonly trained: TrainerPiece;
  readonly overlay: number | null;
}) {
  const { proof, isRunning, toggle } = useExercise(trained.piece, {
    overlay,
    soundsRhythm: trained.soundsRhythm,
    clickOn: trained.soundsRhythm ? 'pulse' : 'subdivision',
  });
  const run = runAct(isRunning, 'Round and round', toggle);
  useActs('view', [run]);
  const { leads, comesRoundAfter } = trained.hands;
  return (
    <>
      <BarsDrawing
        proof={proof}
        from={0}
        to={trained.piece.bars.length}
        under={(place) => (
          <>
            <text x={4} y={46} fontSize={14} fontWeight={700} fill={place % 2 ? 'var(--seam)' : 'var(--ink)'}>
              {trained.roles[place]}
            </text>
            <text x={4} y={66} fontSize={13} fill="var(--entry-text)">
              {handWords(leads[place], comesRoundAfter)}
            </text>
          </>
        )}
      />
      <ul className="mt-2 text-lg">
        {trained.says.map((says) => (
          <li key={says}>{says}</li>
        ))}
      </ul>
      <div className="mt-3">
        <ActButton act={run} filled />
      </div>
    </>
  );
}

/** The hand that leads a bar the first time round, and the second where that is the other. */
function handWords(lead: 'right' | 'left' | undefined, comesRoundAfter: 1 | 2): string {
  const [first, second] = lead === 'left' ? ['left', 'right'] : ['right', 'left'];
  return comesRoundAfter === 2 ? `${first} leads, then ${second}` : `${first} leads`;
}

/** The bar that is uneven of the two at a seam: the one after, unless only the one before is odd. */
function unevenBar(piece: Piece, { kind, place }: Target): number {
  const before = place.barIndex - 1;
  const isBefore = kind === 'seam' && oddBarMaybe(piece, before) && !oddBarMaybe(piece, place.barIndex);
  return isBefore ? before : place.barIndex;
}

function exerciseOf(
  kind: Kind,
  groups: readonly number[] | undefined,
  every: number,
  cycle: Result<readonly Meter[]>,
): TrainerExercise | null {
  switch (kind) {
    case 'groupings':
      return groups ? { kind, groups } : null;
    case 'displaced':
      return { kind, every };
    case 'cycle':
      return cycle.ok ? { kind, meters: cycle.value } : null;
    case 'against the full bar':
    case 'the trap':
      return { kind };
  }
}

/** The meters of a few bars from one on, as they would be typed. */
function cycleAround(bars: ReadonlyArray<{ readonly meter: Meter }>, from: number): string {
  return bars
    .slice(from, from + 3)
    .map(({ meter }) => formatMeter(meter))
    .join(', ');
}

function readCycle(text: string): Result<readonly Meter[]> {
  const meters: Meter[] = [];
  const parts = text.split(',').filter((part) => part.trim() !== '');
  if (parts.length === 0 || parts.length > MOST_CYCLE_METERS)
    return {
      ok: false,
      problem: {
        message: `Write one to ${MOST_CYCLE_METERS} meters with commas between, such as 7/8, 3/4, 5/8`,
      },
    };
  for (const part of parts) {
    const meter = parseMeter(part);
    if (!meter.ok) return meter;
    meters.push(meter.value);
  }
  return { ok: true, value: meters };
}
