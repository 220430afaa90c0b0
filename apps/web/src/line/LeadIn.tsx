import { hopHeight, type CountOff } from '@anchorbeat/core';
import { hopPath } from '@anchorbeat/drawing';

interface LeadInHop {
  readonly xPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly word: string;
  readonly stress: 'downbeat' | 'beat';
  readonly numeral: number;
  readonly parts: number;
}

/** The count-off as hops that lead up to x = 0, where the entry is. */
export function leadInHops(countOff: CountOff | null, pixelsPerSecond: number): readonly LeadInHop[] {
  if (!countOff) return [];
  return countOff.beats.map((beat) => ({
    xPx: (beat.timeSeconds - countOff.lengthSeconds) * pixelsPerSecond,
    widthPx: beat.lengthSeconds * pixelsPerSecond,
    heightPx: hopHeight(beat.lengthSeconds),
    word: beat.word,
    stress: beat.isDownbeat ? 'downbeat' : 'beat',
    numeral: 0,
    parts: 1,
  }));
}

/** The count-off drawn before the entry, in its own colour and dashed, so that it is told from the music. */
export function LeadIn({ hops, isPast }: { readonly hops: readonly LeadInHop[]; readonly isPast: boolean }) {
  const start = hops[0]?.xPx ?? 0;
  return (
    <g opacity={isPast ? 0.35 : 1}>
      <path
        d={hops.map(hopPath).join('')}
        fill="none"
        stroke="var(--entry)"
        strokeWidth={1.6}
        strokeDasharray="4 3"
      />
      <path d={`M${start} 0H0`} stroke="var(--entry)" strokeWidth={1.5} strokeDasharray="4 3" />
      {hops.map((hop) => (
        <text
          key={hop.xPx}
          x={hop.xPx}
          y={19}
          textAnchor="middle"
          fontSize={14}
          fontWeight={hop.stress === 'downbeat' ? 800 : 500}
          fill="var(--entry-text)"
          className="numeral"
        >
          {hop.word}
        </text>
      ))}
    </g>
  );
}
