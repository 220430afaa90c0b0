import { useState } from 'react';

interface NumberFieldProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly onNumber: (value: number) => void;
}

/** A number to type. What is no number, or out of reach, is marked and not taken. */
export function NumberField({ label, value, min, max, onNumber }: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? String(value);
  const isGood = isWithin(text, min, max);
  return (
    <label className="grid gap-1 text-sm text-quiet">
      {label}
      <input
        inputMode="decimal"
        autoComplete="off"
        maxLength={8}
        value={text}
        aria-invalid={!isGood}
        title={isGood ? undefined : `A number from ${min} to ${max}`}
        onChange={({ target }) => {
          setTyped(target.value);
          if (isWithin(target.value, min, max)) onNumber(Number(target.value));
        }}
        onBlur={() => setTyped(null)}
        className={`numeral w-20 rounded-lg border-2 bg-ground px-2.5 py-1 text-lg text-ink ${isGood ? 'border-faint focus:border-ink' : 'border-problem'}`}
      />
    </label>
  );
}

function isWithin(text: string, min: number, max: number): boolean {
  const number = Number(text);
  return text.trim() !== '' && Number.isFinite(number) && number >= min && number <= max;
}
