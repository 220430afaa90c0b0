import { noteWords, type Equivalence, type NoteValue } from '@anchorbeat/core';

const HEAD =
  'M1 15.6C1 13.6 3.4 11.6 6 11.6C8 11.6 9.2 12.6 9.2 14.2C9.2 16.4 6.8 18.2 4.3 18.2C2.3 18.2 1 17.2 1 15.6Z';
const FLAGS: Readonly<Record<string, number>> = { eighth: 1, sixteenth: 2, '32nd': 3, '64th': 4 };

/** A note drawn by hand, for a device that should not have to fetch a music font for two notes. */
function NoteShape({ value }: { readonly value: NoteValue }) {
  const isOpen = ['breve', 'whole', 'half'].includes(value.base);
  const hasStem = value.base !== 'whole' && value.base !== 'breve';
  const flags = FLAGS[value.base] ?? 0;
  const tuplet = value.tuplets[0];
  return (
    <svg
      role="img"
      aria-label={noteWords(value)}
      viewBox="0 -4 18 24"
      className="inline-block h-[1.25em] w-auto overflow-visible align-[-0.18em]"
    >
      <path
        d={HEAD}
        fill={isOpen ? 'none' : 'currentColor'}
        stroke="currentColor"
        strokeWidth={isOpen ? 1.8 : 0.6}
      />
      {hasStem && <path d="M8.6 14V-2" stroke="currentColor" strokeWidth={1.3} />}
      {Array.from({ length: flags }, (_, flag) => (
        <path
          key={flag}
          d={`M8.6 ${-2 + 3.6 * flag}C9 ${1.4 + 3.6 * flag} 13.6 ${2.6 + 3.6 * flag} 12.2 ${7.4 + 3.6 * flag}C12.6 ${4.6 + 3.6 * flag} 10 ${3.2 + 3.6 * flag} 8.6 ${2.8 + 3.6 * flag}Z`}
          fill="currentColor"
        />
      ))}
      {Array.from({ length: value.dots }, (_, dot) => (
        <circle key={dot} cx={12.4 + 3.6 * dot} cy={14.6} r={1.4} fill="currentColor" />
      ))}
      {tuplet && (
        <text x={5} y={-4} fontSize={8} textAnchor="middle" fill="currentColor" fontWeight={700}>
          {tuplet.actual}
        </text>
      )}
    </svg>
  );
}

/** "♩ = ♩.", the note before on the left. */
export function CarryShape({ carry }: { readonly carry: Equivalence }) {
  return (
    <span className="whitespace-nowrap">
      <NoteShape value={carry.before} /> = <NoteShape value={carry.after} />
    </span>
  );
}
