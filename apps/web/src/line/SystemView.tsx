import {
  barLength,
  formatMeter,
  formatNoteValue,
  oddBarMaybe,
  placedNotes,
  toNumber,
  type BarGeometry,
  type CompiledPiece,
  type Piece,
  type Seam,
} from '@anchorbeat/core';
import { hopPath, hopPathsOf, NEAR_ROWS, placeSigns, type LineRows } from '@anchorbeat/drawing';
import { memo, type ReactNode } from 'react';
import { hasRoomForNotes } from './BarRhythm.tsx';
import { FindingMarks } from './FindingMarks.tsx';
import { HoldBowls } from './HoldBowls.tsx';
import { Landing, Numeral } from './Landing.tsx';
import { LongRests } from './LongRests.tsx';
import { RampWedges } from './RampWedges.tsx';
import { RhythmNotes } from './RhythmNotes.tsx';
import { RouteMarks } from './RouteMarks.tsx';
import { SvgEquivalence, SvgMeter, SvgTempoMark } from './SvgNotes.tsx';

const MIN_NUMERAL_PX = 13;
const MIN_LABEL_PX = 22;
const LABEL_INSET_PX = 7;
const DIGIT_PX = 7.2;
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
  /** Where everything beside the hops stands; as seen from near where nothing else is said. */
  readonly rows?: LineRows;
  /** Bars whose beats are counted although they are not seen from near. */
  readonly isCounted?: (bar: BarGeometry) => boolean;
}

/** One system of the line: hops, landings, counts, labels, signs, anchors and carries, standing on y = 0. */
export const SystemView = memo(function SystemView(props: SystemViewProps) {
  const { piece, compiled, bars, seamOf, rows = NEAR_ROWS } = props;
  const isNear = rows.detail === 'near';
  const width = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  const paths = hopPathsOf(bars);
  return (
    <g>
      <OddBars piece={piece} bars={bars} rows={rows} />
      <path d={paths.fill} fill="var(--hop-fill)" />
      {isNear && <path d={paths.subdivisions} fill="none" stroke="var(--quiet)" strokeOpacity={0.7} />}
      <path d={paths.beats} fill="none" stroke="var(--ink)" strokeWidth={isNear ? 1.6 : 1.2} />
      <path d={paths.downbeats} fill="none" stroke="var(--ink)" strokeWidth={isNear ? 2.6 : 2.1} />
      <path d={`M0 0H${width}`} stroke="var(--ink)" strokeWidth={1.5} />
      <LongRests bars={bars} isPage={!isNear} />
      {bars.map((bar) => (
        <BarMarks
          key={bar.performed >= 0 ? bar.performed : `w${bar.barIndex}`}
          {...props}
          rows={rows}
          bar={bar}
          seam={seamOf(bar)}
        />
      ))}
      <Landing x={width} stress="downbeat" isSmall={!isNear} />
      {placeSigns(piece, bars, rows).map(({ barIndex, drawnAt, meterX, meterSize, mark, tempos }) => (
        <g key={drawnAt}>
          {mark && <RehearsalMark {...mark} y={rows.signY} height={rows.signSize * 0.8} />}
          {meterX !== null && (
            <SvgMeter
              meter={piece.bars[barIndex]!.meter}
              x={meterX}
              y={rows.signY}
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
              size={rows.tempoSize}
            />
          ))}
        </g>
      ))}
      {isNear && <WrittenNotes piece={piece} bars={bars} />}
      <Carries bars={bars} seamOf={seamOf} rows={rows} labels={compiled.labels} />
      <RampWedges piece={piece} compiled={compiled} bars={bars} rows={rows} />
      <RouteMarks piece={piece} bars={bars} rows={rows} />
      <HoldBowls piece={piece} bars={bars} rows={rows} />
      {props.hasFindings && <FindingMarks compiled={compiled} bars={bars} rows={rows} />}
    </g>
  );
});

interface RowsProps extends Pick<SystemViewProps, 'piece' | 'bars'> {
  readonly rows: LineRows;
}

/** An odd bar is warm, and from near its difference is said in words. */
function OddBars({ piece, bars, rows }: RowsProps): ReactNode {
  return bars.map((bar) => {
    const odd = oddBarMaybe(piece, bar.barIndex);
    if (!odd) return null;
    return (
      <g key={bar.performed >= 0 ? bar.performed : `w${bar.barIndex}`}>
        <path d={bar.hops.map((hop) => `${hopPath(hop)}Z`).join('')} fill="var(--hop-odd)" />
        {rows.detail === 'near' && bar.widthPx > odd.words.length * 6.5 && (
          <text
            x={bar.xPx + bar.widthPx / 2 + 8}
            y={rows.labelY}
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
  readonly rows: LineRows;
  readonly bar: BarGeometry;
  readonly seam: Seam | undefined;
}

function BarMarks({ compiled, bar, seam, rows, isCounted }: BarMarksProps) {
  const label = compiled.labels[bar.barIndex];
  const isNear = rows.detail === 'near';
  if (bar.restRun && bar.restRun.from !== bar.barIndex && !seam) return <RestBarline x={bar.xPx} />;
  return (
    <g>
      <path
        d={`M${bar.xPx} 0V${rows.barlineY}`}
        stroke={seam ? 'var(--ink)' : 'var(--quiet)'}
        strokeOpacity={seam ? 0.9 : 0.55}
        strokeWidth={1.2}
      />
      {(bar.restRun ? bar.hops.slice(0, 1) : bar.hops).map((hop, index) => (
        <g key={index}>
          <Landing x={hop.xPx} stress={hop.stress} isSmall={!isNear} />
          {isNear && hop.widthPx >= MIN_NUMERAL_PX && <Numeral hop={hop} x={hop.xPx} y={rows.countY} />}
          {!isNear && isCounted?.(bar) && hop.widthPx >= MIN_NUMERAL_PX && (
            <Numeral hop={hop} x={hop.xPx + hop.widthPx / 2} y={rows.countY} />
          )}
        </g>
      ))}
      {label && (bar.widthPx >= MIN_LABEL_PX || seam) && (
        <text
          x={bar.xPx + LABEL_INSET_PX}
          y={rows.labelY}
          fontSize={rows.labelSize}
          fill="var(--quiet)"
          fontFamily="var(--font-display)"
        >
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

interface CarriesProps extends Pick<SystemViewProps, 'bars' | 'seamOf'> {
  readonly rows: LineRows;
  readonly labels: CompiledPiece['labels'];
}

/** Letters a carry is about as wide as. */
const CARRY_EMS = 4;

/** The weight under the line where everyone must land, and beside it what lasts equally long on both sides. */
function Carries({ bars, seamOf, rows, labels }: CarriesProps): ReactNode {
  const anchored = bars.flatMap((bar) => {
    const seam = seamOf(bar);
    return seam ? [{ bar, seam }] : [];
  });
  const { anchorTopY, anchorY, anchorSize } = rows;
  const half = anchorSize * 0.6;
  const sharesRow = rows.detail !== 'near';
  return anchored.map(({ bar, seam }, index) => {
    const x = sharesRow ? LABEL_INSET_PX + (labels[bar.barIndex]?.length ?? 0) * DIGIT_PX + 6 : 15;
    const nextLabelPx = sharesRow ? bar.widthPx : Infinity;
    const room = Math.min((anchored[index + 1]?.bar.xPx ?? Infinity) - bar.xPx, nextLabelPx);
    return (
      <g key={bar.performed} transform={`translate(${bar.xPx} 0)`}>
        <path d={`M0 ${anchorTopY}V${anchorY}`} stroke="var(--seam)" strokeWidth={2} />
        <path
          d={`M${-half} ${anchorY}H${half}L${half * 0.6} ${anchorY + anchorSize}H${-half * 0.6}Z`}
          fill="var(--seam)"
        />
        {seam.carry && room > x + CARRY_EMS * rows.carrySize && (
          <SvgEquivalence equivalence={seam.carry} x={x} y={rows.carryY} size={rows.carrySize} />
        )}
      </g>
    );
  });
}

interface RehearsalMarkProps {
  readonly text: string;
  readonly x: number;
  readonly widthPx: number;
  readonly fontSize: number;
  /** The middle of its box. */
  readonly y: number;
  readonly height: number;
}

function RehearsalMark({ text, x, widthPx, fontSize, y, height }: RehearsalMarkProps) {
  return (
    <g transform={`translate(${x} ${y})`}>
      <rect y={-height / 2} width={widthPx} height={height} rx={3} fill="var(--ink)" />
      <text
        x={widthPx / 2}
        y={fontSize * 0.36}
        textAnchor="middle"
        fontSize={fontSize}
        fontWeight={800}
        fill="var(--ground)"
        className="numeral"
      >
        {text}
      </text>
    </g>
  );
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
