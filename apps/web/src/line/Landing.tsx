import type { Hop } from '@anchorbeat/core';

/** The count of a beat under the line. */
export function Numeral({ hop, x, y }: { readonly hop: Hop; readonly x: number; readonly y: number }) {
  const isStrong = hop.stress !== 'beat';
  return (
    <text
      x={x}
      y={y}
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

interface LandingProps {
  readonly x: number;
  readonly stress: Hop['stress'];
  readonly isSmall: boolean;
}

/** A square landing is a downbeat, a filled ring a group, a ring a beat. */
export function Landing({ x, stress, isSmall }: LandingProps) {
  if (stress === 'downbeat') {
    const half = isSmall ? 3.4 : 4.5;
    return <rect x={x - half} y={-half} width={2 * half} height={2 * half} fill="var(--ink)" />;
  }
  const radius = (stress === 'group' ? 4.2 : 3.2) * (isSmall ? 0.8 : 1);
  return (
    <circle cx={x} r={radius} fill="var(--ground)" stroke="var(--ink)" strokeWidth={isSmall ? 1.3 : 1.6} />
  );
}
