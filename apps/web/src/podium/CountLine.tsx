import {
  COUNT_SCHOOLS,
  inNoteNames,
  countBar,
  countBetween,
  countSchoolMaybe,
  oddShown,
  performedCount,
  pulseOf,
  toNumber,
  writtenBar,
  type Bar,
  type Proof,
} from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import { useTransport } from '../store/useTransport.ts';

interface CountLineProps {
  readonly performed: number;
  readonly schoolId: string;
}

/** The bar as it is counted aloud, the words of the beat being heard standing out. */
export function CountLine({ performed, schoolId }: CountLineProps) {
  const proof = useProof();
  const bar = writtenBar(proof, performed);
  const { status, beatIndex } = useTransport('status', 'beatIndex');
  const school = countSchoolMaybe(schoolId) ?? COUNT_SCHOOLS[0];
  const words =
    school.id === oddShown.id ? countBetween(bar, neighboursOf(proof, performed)) : countBar(bar, school);
  const beats = pulseOf(bar);
  const [from, to] = [beats[beatIndex], beats[beatIndex + 1]].map((beat) =>
    beat ? toNumber(beat.atWholes) : Infinity,
  );
  const isNow = (at: number) =>
    status === 'running' && at >= (from ?? 0) - 1e-9 && at < (to ?? Infinity) - 1e-9;
  return (
    <p
      data-testid="count-line"
      className="podium-count numeral mt-[1cqh] truncate text-[length:clamp(1.375rem,4cqmin,1.9rem)] text-quiet"
      title={inNoteNames(school.name)}
    >
      {words.map(({ word, atWholes }, index) => {
        const at = toNumber(atWholes);
        return (
          <span key={index} className={`mr-3 ${isNow(at) ? 'font-extrabold text-ink' : ''}`}>
            {word}
          </span>
        );
      })}
    </p>
  );
}

/** The bars heard before and after one. */
function neighboursOf(proof: Proof, performed: number): ReadonlyArray<Bar | undefined> {
  const end = performedCount(proof.compiled.timeline);
  return [performed + 1, performed - 1]
    .filter((other) => other >= 0 && other < end)
    .map((other) => writtenBar(proof, other));
}
