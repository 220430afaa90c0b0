import { COUNT_SCHOOLS, countBar, countSchoolMaybe, pulseOf, toNumber, type Bar } from '@anchorbeat/core';
import { useAppSelector } from '../store/store.ts';

/** The bar as it is counted aloud, the words of the beat being heard standing out. */
export function CountLine({ bar, schoolId }: { readonly bar: Bar; readonly schoolId: string }) {
  const { status, beatIndex } = useAppSelector((state) => state.transport);
  const school = countSchoolMaybe(schoolId) ?? COUNT_SCHOOLS[0];
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
      title={school.name}
    >
      {countBar(bar, school).map(({ word, atWholes }, index) => {
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
