import {
  barLength,
  formatMeter,
  formatNoteValue,
  oddBarMaybe,
  placedNotes,
  toNumber,
  type BarGeometry,
  type CompiledPiece,
  type Hop,
  type Piece,
  type Seam,
} from '@anchorbeat/core';
import { hopPath, hopPathsOf, placeSigns, SIGN_LANE_Y, TEMPO_SIZE } from '@anchorbeat/drawing';
import { memo, type ReactNode } from 'react';
import { hasRoomForNotes } from './BarRhythm.tsx';
import { FindingMarks } from './FindingMarks.tsx';
import { HoldBowls } from './HoldBowls.tsx';
import { LongRests } from './LongRests.tsx';
import { RampWedges } from './RampWedges.tsx';
import { RhythmNotes } from './RhythmNotes.tsx';
import { RouteMarks } from './RouteMarks.tsx';
import { SvgEquivalence, SvgMeter, SvgTempoMark } from './SvgNotes.tsx';

const NUMERAL_Y = 19;
const LABEL_Y = 35;
const ANCHOR_TOP_Y = 24;
const ANCHOR_Y = 46;
const CARRY_Y = 58;
const MIN_NUMERAL_PX = 13;
const MIN_LABEL_PX = 22;
const CARRY_ROOM_PX = 74;
const NOTE_SIZE = 13;
const NOTE_ROOM_PX = 15;
const NOTE_INSET_PX = 9;

export interface SystemViewProps {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly bars: readonly BarGeometry[];
  /** The seam that leads into a drawn bar. */
  readonly seamOf: (bar: BarGeometry) => Seam | undefined;
  /** Marks bars with something to look at: at the desk, not in front of the ensemble. */
  readonly hasFindings?: boolean;
}

/** One system of the line: hops, landings, counts, labels, signs, anchors and carries, standing on y = 0. */
export const SystemView = memo(function SystemView(props: SystemViewProps) {
  const { piece, compiled, bars, seamOf } = props;
  const width = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  const paths = hopPathsOf(bars);
  return (
    <g>
      <OddBars piece={piece} bars={bars} />
      <path d={paths.fill} fill="var(--hop-fill)" />
      <path d={paths.subdivisions} fill="none" stroke="var(--quiet)" strokeOpacity={0.7} />
      <path d={paths.beats} fill="none" stroke="var(--ink)" strokeWidth={1.6} />
      <path d={paths.downbeats} fill="none" stroke="var(--ink)" strokeWidth={2.6} />
      <path d={`M0 0H${width}`} stroke="var(--ink)" strokeWidth={1.5} />
      <LongRests bars={bars} />
      {bars.map((bar) => (
        <BarMarks
          key={bar.performed >= 0 ? bar.performed : `w${bar.barIndex}`}
          {...props}
          bar={bar}
          seam={seamOf(bar)}
        />
      ))}
      <Landing x={width} stress="downbeat" />
      {placeSigns(piece, bars).map(({ barIndex, drawnAt, meterX, meterSize, tempos }) => (
        <g key={drawnAt}>
          {meterX !== null && (
            <SvgMeter
              meter={piece.bars[barIndex]!.meter}
              x={meterX}
              y={SIGN_LANE_Y}
              size={meterSize}
              fill={oddBarMaybe(piece, barIndex) ? 'var(--seam)' : 'var(--ink)'}
            />
          )}
          {tempos.map(({ mark, x, y }) => (
            <SvgTempoMark
              key={`${mark.atWholes.n}/${mark.atWholes.d}`}
              mark={mark}
              x={x}
              y={y}
              size={TEMPO_SIZE}
            />
          ))}
        </g>
      ))}
      <WrittenNotes piece={piece} bars={bars} />
      <Carries bars={bars} seamOf={seamOf} />
      <RampWedges piece={piece} compiled={compiled} bars={bars} />
      <RouteMarks piece={piece} bars={bars} />
      <HoldBowls piece={piece} bars={bars} />
      {props.hasFindings && <FindingMarks compiled={compiled} bars={bars} />}
    </g>
  );
});

function OddBars({ piece, bars }: Pick<SystemViewProps, 'piece' | 'bars'>): ReactNode {
  return bars.map((bar) => {
    const odd = oddBarMaybe(piece, bar.barIndex);
    if (!odd) return null;
    return (
      <g key={bar.performed >= 0 ? bar.performed : `w${bar.barIndex}`}>
        <path d={bar.hops.map((hop) => `${hopPath(hop)}Z`).join('')} fill="var(--hop-odd)" />
        {bar.widthPx > odd.words.length * 6.5 && (
          <text
            x={bar.xPx + bar.widthPx / 2 + 8}
            y={LABEL_Y}
            textAnchor="middle"
            fontSize={12.5}
            fontWeight={700}
            fill="var(--seam)"
          >
            {odd.words}
          </text>
        )}
      </g>
    );
  });
}

interface BarMarksProps extends SystemViewProps {
  readonly bar: BarGeometry;
  readonly seam: Seam | undefined;
}

function BarMarks({ compiled, bar, seam }: BarMarksProps) {
  const label = compiled.labels[bar.barIndex];
  if (bar.restRun && bar.restRun.from !== bar.barIndex && !seam) return <RestBarline x={bar.xPx} />;
  return (
    <g>
      <path
        d={`M${bar.xPx} 0V-62`}
        stroke={seam ? 'var(--ink)' : 'var(--quiet)'}
        strokeOpacity={seam ? 0.9 : 0.55}
        strokeWidth={1.2}
      />
      {(bar.restRun ? bar.hops.slice(0, 1) : bar.hops).map((hop, index) => (
        <g key={index}>
          <Landing x={hop.xPx} stress={hop.stress} />
          {hop.widthPx >= MIN_NUMERAL_PX && <Numeral hop={hop} />}
        </g>
      ))}
      {label && bar.widthPx >= MIN_LABEL_PX && (
        <text x={bar.xPx + 7} y={LABEL_Y} fontSize={12} fill="var(--quiet)" fontFamily="var(--font-display)">
          {label}
        </text>
      )}
    </g>
  );
}

/** The notes of a bar inside its hops, where each has room. A bar of rests only shows that it rests. */
function WrittenNotes({ piece, bars }: Pick<SystemViewProps, 'piece' | 'bars'>): ReactNode {
  return bars.map((bar) => {
    const written = piece.bars[bar.barIndex];
    if (!written?.rhythm || bar.restRun) return null;
    const pixelsPerWhole = bar.widthPx / toNumber(barLength(written));
    if (!hasRoomForNotes(written.rhythm, pixelsPerWhole, NOTE_ROOM_PX)) return null;
    const notes = placedNotes(written.rhythm).map(({ note, atWholes }) => ({
      note,
      x: bar.xPx + NOTE_INSET_PX + toNumber(atWholes) * pixelsPerWhole,
    }));
    return (
      <RhythmNotes
        key={bar.performed >= 0 ? bar.performed : `w${bar.barIndex}`}
        notes={notes}
        endX={bar.xPx + bar.widthPx}
        y={-12}
        size={NOTE_SIZE}
        fill="var(--ink)"
      />
    );
  });
}

/** Inside a long rest a barline is a short tick. */
function RestBarline({ x }: { readonly x: number }) {
  return <path d={`M${x} -5V5`} stroke="var(--quiet)" strokeWidth={1.2} />;
}

function Numeral({ hop }: { readonly hop: Hop }) {
  const isStrong = hop.stress !== 'beat';
  return (
    <text
      x={hop.xPx}
      y={NUMERAL_Y}
      textAnchor="middle"
      fontSize={14}
      fontWeight={isStrong ? 800 : 500}
      fill={isStrong ? 'var(--ink)' : 'var(--quiet)'}
      fontFamily="var(--font-display)"
    >
      {hop.numeral}
    </text>
  );
}

/** A square landing is a downbeat, a filled ring a group, a ring a beat. */
function Landing({ x, stress }: { readonly x: number; readonly stress: Hop['stress'] }) {
  if (stress === 'downbeat') {
    const half = 4.5;
    return <rect x={x - half} y={-half} width={2 * half} height={2 * half} fill="var(--ink)" />;
  }
  const radius = stress === 'group' ? 4.2 : 3.2;
  return <circle cx={x} r={radius} fill="var(--ground)" stroke="var(--ink)" strokeWidth={1.6} />;
}

/** The weight under the line where everyone must land, and beside it what lasts equally long on both sides. */
function Carries({ bars, seamOf }: Pick<SystemViewProps, 'bars' | 'seamOf'>): ReactNode {
  const anchored = bars.flatMap((bar) => {
    const seam = seamOf(bar);
    return seam ? [{ bar, seam }] : [];
  });
  return anchored.map(({ bar, seam }, index) => {
    const room = (anchored[index + 1]?.bar.xPx ?? Infinity) - bar.xPx;
    return (
      <g key={bar.performed} transform={`translate(${bar.xPx} 0)`}>
        <path d={`M0 ${ANCHOR_TOP_Y}V${ANCHOR_Y}`} stroke="var(--seam)" strokeWidth={2} />
        <path d={`M-8 ${ANCHOR_Y}H8L4.5 ${ANCHOR_Y + 13}H-4.5Z`} fill="var(--seam)" />
        {seam.carry && room > CARRY_ROOM_PX && (
          <SvgEquivalence equivalence={seam.carry} x={15} y={CARRY_Y} size={15} />
        )}
      </g>
    );
  });
}

/** What is read out of a bar: "Bar 11, 15/16 as 4+4+4+3, one sixteenth short, lands together, carry eighth". */
export function barDescription(
  piece: Piece,
  compiled: CompiledPiece,
  barIndex: number,
  seam: Seam | undefined,
): string {
  const bar = piece.bars[barIndex];
  if (!bar) return '';
  const parts = [
    compiled.labels[barIndex] ? `Bar ${compiled.labels[barIndex]}` : 'Pickup',
    bar.rehearsalMark && `rehearsal mark ${bar.rehearsalMark}`,
    formatMeter(bar.meter),
    oddBarMaybe(piece, barIndex)?.words,
    seam && 'seam',
    seam?.carry && `carry ${carryWords(seam.carry)}`,
  ];
  return parts.filter(Boolean).join(', ');
}

function carryWords({ before, after }: NonNullable<Seam['carry']>): string {
  const [was, is] = [formatNoteValue(before), formatNoteValue(after)];
  return was === is ? `${was} stays` : `${was} becomes ${is}`;
}
