import type { BarGeometry, Piece, SectionMark, SectionSpan } from '@anchorbeat/core';
import type { ReactNode } from 'react';

export const LANE_PX = 14;
const MIN_WORDS_PX = 40;

interface SectionLanesProps {
  readonly piece: Piece;
  readonly bars: readonly BarGeometry[];
  readonly sections: readonly string[];
  readonly spans: readonly SectionSpan[];
  /** Where the first lane stands. */
  readonly y: number;
  /** Room for its name before the line; where it is little, the name stands on the lane's beginning. */
  readonly gutterPx: number;
}

const NAME_ROOM_PX = 70;

/** A lane a section: a solid line where it plays, dots where it rests, a flag where it comes in. */
export function SectionLanes({ piece, bars, sections, spans, y, gutterPx }: SectionLanesProps): ReactNode {
  return sections.map((section, index) => (
    <g key={section} transform={`translate(0 ${y + index * LANE_PX})`}>
      {spans
        .filter((span) => span.section === section)
        .map((span) => (
          <Span key={span.from} span={span} bars={bars} />
        ))}
      {marksIn(piece, bars, section).map(({ bar, mark, roomPx }) => (
        <Flag key={bar.barIndex} x={bar.xPx} mark={mark} roomPx={roomPx} />
      ))}
      <LaneName section={section} isBefore={gutterPx >= NAME_ROOM_PX} />
    </g>
  ));
}

function LaneName({ section, isBefore }: { readonly section: string; readonly isBefore: boolean }) {
  const shown = section.length > 11 ? `${section.slice(0, 10)}…` : section;
  return (
    <text
      x={isBefore ? -8 : 13}
      y={4}
      textAnchor={isBefore ? 'end' : 'start'}
      fontSize={11.5}
      fill="var(--quiet)"
      stroke="var(--ground)"
      strokeWidth={isBefore ? 0 : 5}
      paintOrder="stroke"
    >
      {shown}
      <title>{section}</title>
    </text>
  );
}

function Span({ span, bars }: { readonly span: SectionSpan; readonly bars: readonly BarGeometry[] }) {
  const covered = bars.filter(({ barIndex }) => barIndex >= span.from && barIndex < span.to);
  const [first, last] = [covered[0], covered.at(-1)];
  if (!first || !last) return null;
  const plays = span.does === 'plays';
  return (
    <path
      d={`M${first.xPx + 2} 0H${last.xPx + last.widthPx - 2}`}
      stroke="var(--quiet)"
      strokeWidth={plays ? 2.4 : 1.5}
      strokeLinecap="round"
      strokeDasharray={plays ? undefined : '0.1 7'}
    />
  );
}

interface PlacedMark {
  readonly bar: BarGeometry;
  readonly mark: SectionMark;
  readonly roomPx: number;
}

function marksIn(piece: Piece, bars: readonly BarGeometry[], section: string): readonly PlacedMark[] {
  const marked = bars.flatMap((bar) => {
    const mark = piece.bars[bar.barIndex]?.sectionMarks?.find((candidate) => candidate.section === section);
    return mark && mark.does !== 'rests' ? [{ bar, mark }] : [];
  });
  const end = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  return marked.map((placed, index) => ({
    ...placed,
    roomPx: (marked[index + 1]?.bar.xPx ?? end) - placed.bar.xPx,
  }));
}

/** A filled flag for an entry, an open one for a cue, with what is said of it where there is room. */
function Flag({
  x,
  mark,
  roomPx,
}: {
  readonly x: number;
  readonly mark: SectionMark;
  readonly roomPx: number;
}) {
  const isCue = mark.does === 'cue';
  const letters = Math.floor((roomPx - 18) / 6);
  return (
    <g>
      <path
        d={`M${x} -6L${x + 11} 0L${x} 6Z`}
        fill={isCue ? 'var(--ground)' : 'var(--entry)'}
        stroke="var(--entry)"
        strokeWidth={1.6}
      />
      {mark.says && roomPx > MIN_WORDS_PX && (
        <text
          x={x + 15}
          y={-2.5}
          fontSize={11.5}
          fontWeight={600}
          fill="var(--entry-text)"
          stroke="var(--ground)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {mark.says.length > letters ? `${mark.says.slice(0, Math.max(1, letters - 1))}…` : mark.says}
        </text>
      )}
    </g>
  );
}
