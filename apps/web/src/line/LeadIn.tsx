import { hopPath, type LeadInHop } from '@anchorbeat/drawing';

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
