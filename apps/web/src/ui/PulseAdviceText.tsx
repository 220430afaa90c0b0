import {
  capital,
  formatNumber,
  inWords,
  practiceRate,
  pulseAdvice,
  type Bar,
  type Fraction,
} from '@anchorbeat/core';
import { useId, useState } from 'react';

interface PulseAdviceTextProps {
  readonly bar: Pick<Bar, 'meter'>;
  /** Whole notes a minute as printed. */
  readonly rate: Fraction;
}

const SLOWEST_PERCENT = 25;
const FASTEST_PERCENT = 150;

/** How a bar is best beaten at the printed and at a practice tempo, and why: that can differ. */
export function PulseAdviceText({ bar, rate }: PulseAdviceTextProps) {
  const id = useId();
  const [percent, setPercent] = useState(60);
  const printed = pulseAdvice(bar, rate);
  const practice = pulseAdvice(bar, practiceRate(rate, percent));
  return (
    <div className="grid gap-2">
      <p>
        <span className="font-semibold">As printed: {inWords(printed.best.beats)}.</span>{' '}
        {sentence(printed.reason)}
      </p>
      <p>
        <label htmlFor={id} className="font-semibold">
          At{' '}
          <input
            id={id}
            type="number"
            aria-label="Practice tempo in percent"
            min={SLOWEST_PERCENT}
            max={FASTEST_PERCENT}
            step={5}
            value={percent}
            onChange={({ target }) =>
              setPercent(Math.min(FASTEST_PERCENT, Math.max(1, Math.round(target.valueAsNumber) || 1)))
            }
            className="numeral w-16 rounded-md border-2 border-faint bg-ground px-1.5"
          />{' '}
          % for practice: {inWords(practice.best.beats)}.
        </label>{' '}
        {sentence(practice.reason)}
      </p>
      {printed.options.length > 1 && (
        <p className="text-[0.9rem] text-quiet">
          Beats a minute as printed:{' '}
          {printed.options.map(({ beats, bpm }) => `${inWords(beats)} ${formatNumber(bpm)}`).join(', ')}
        </p>
      )}
    </div>
  );
}

function sentence(text: string): string {
  return `${capital(text)}.`;
}
