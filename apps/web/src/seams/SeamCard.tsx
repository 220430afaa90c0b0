import {
  entriesAt,
  entryWords,
  formatMeter,
  formatNumber,
  passWords,
  restingAt,
  type SeamPulse,
} from '@anchorbeat/core';
import type { ReactNode } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { EquivalenceText, Note } from '../line/NoteText.tsx';
import { SeamDrawing } from './SeamDrawing.tsx';
import type { ToldSeam } from './target.ts';

/** One transition: before and after on two lines, what carries, what goes wrong, and how hard it is and why. */
export function SeamCard({ told }: { readonly told: ToldSeam }) {
  const { piece, compiled } = useProof();
  const { seam, barIndex, details } = told;
  const resting = restingAt(piece, barIndex);
  const note = piece.bars[barIndex]?.note;
  return (
    <>
      <SeamDrawing seam={seam} />
      <dl className="mt-3 grid grid-cols-[4.5rem_1fr_1fr] gap-x-3 @3xl:grid-cols-[6rem_1fr_1fr] @3xl:gap-x-5 gap-y-1.5 text-lg">
        <Fact name="pulse">
          <dd>
            <PulseText pulse={details.pulseBefore} />
          </dd>
          <dd>
            <PulseText pulse={details.pulseAfter} /> {ratioWords(details.beatRatio)}
          </dd>
        </Fact>
        <Fact name="count">
          <dd className="numeral">{details.countAcross[0]}</dd>
          <dd className="numeral">{details.countAcross[1]}</dd>
        </Fact>
        <Fact name="meter">
          <dd>{meterAt(piece, compiled, seam.performed - 1)}</dd>
          <dd>{meterAt(piece, compiled, seam.performed)}</dd>
        </Fact>
        <Fact name={seam.carry ? 'holds' : 'nearest'}>
          <dd className="col-span-2 font-semibold text-carry-text">
            {seam.carry ? (
              <EquivalenceText equivalence={seam.carry} />
            ) : (
              details.nearest && (
                <>
                  <EquivalenceText equivalence={details.nearest} />
                  <span className="ml-3 font-normal text-quiet">
                    off by {(details.nearest.errorRatio * 100).toFixed(1)} %,{' '}
                    {Math.round(Math.abs(details.nearest.missMilliseconds))} ms in the bar
                  </span>
                </>
              )
            )}
          </dd>
        </Fact>
        {details.traps.map(({ kind, says }) => (
          <Fact key={kind} name="trap">
            <dd className="col-span-2 first-letter:uppercase">{says}</dd>
          </Fact>
        ))}
        {resting.length > 0 && (
          <Fact name="resting">
            <dd className="col-span-2">{resting.join(', ')}</dd>
          </Fact>
        )}
        {note && (
          <Fact name="note">
            <dd className="col-span-2">{note}</dd>
          </Fact>
        )}
      </dl>
      <Difficulty told={told} />
    </>
  );
}

/** "Pulse kept · Reeds enter · second time": what happens at a seam, in a line. */
export function seamSummary(
  { piece, compiled }: ReturnType<typeof useProof>,
  { seam, barIndex, details }: ToldSeam,
): string {
  const entries = entriesAt(piece, barIndex);
  return [
    details.kind,
    entries.length > 0 && entryWords(entries),
    passWords(compiled.timeline.route, seam.performed),
  ]
    .filter(Boolean)
    .join(' · ');
}

function meterAt(
  { bars }: ReturnType<typeof useProof>['piece'],
  { timeline }: ReturnType<typeof useProof>['compiled'],
  performed: number,
): string {
  const bar = bars[timeline.route.barIndex[performed] ?? -1];
  return bar ? formatMeter(bar.meter) : '';
}

function Fact({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <>
      <dt className="text-quiet">{name}</dt>
      {children}
    </>
  );
}

function PulseText({ pulse }: { readonly pulse: SeamPulse }) {
  return (
    <span className="numeral">
      {pulse.value && (
        <>
          <Note value={pulse.value} />
          {' = '}
        </>
      )}
      {formatNumber(pulse.bpm)} · {Math.round(pulse.milliseconds)} ms
    </span>
  );
}

function ratioWords(beatRatio: number): string {
  if (Math.abs(beatRatio - 1) < 1e-9) return '· the same';
  const percent = Math.abs(1 / beatRatio - 1) * 100;
  return `· ${percent.toFixed(percent < 10 ? 1 : 0)} % ${beatRatio < 1 ? 'faster' : 'slower'}`;
}

/** The parts a difficulty is made of, each against the most it could give. */
function Difficulty({ told }: { readonly told: ToldSeam }) {
  return (
    <section aria-label="What makes it hard" className="mt-5">
      <h3 className="font-display text-lg font-bold">What makes it hard</h3>
      <ul className="mt-2 grid max-w-2xl gap-1.5">
        {told.details.difficulty.map(({ part, points, most }) => (
          <li
            key={part}
            className="grid grid-cols-[7.5rem_1fr_4rem] items-center gap-2 @3xl:grid-cols-[9rem_1fr_4.5rem] @3xl:gap-4"
          >
            <span className={points > 0.5 ? '' : 'text-quiet'}>{part}</span>
            <span className="block h-3 rounded-sm border border-quiet" style={{ width: `${most * 4}%` }}>
              <span className="block h-full bg-seam" style={{ width: `${(100 * points) / most}%` }} />
            </span>
            <span className="numeral text-right text-quiet">
              {Math.round(points)} of {most}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
