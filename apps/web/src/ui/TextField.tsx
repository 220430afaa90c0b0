import type { InputHTMLAttributes } from 'react';

interface TextFieldProps extends Omit<InputHTMLAttributes<HTMLInputElement>, 'onChange'> {
  readonly label: string;
  /** Above the line to type on, or before it. */
  readonly labelStands?: 'above' | 'before';
  readonly onText?: (text: string) => void;
}

/** A line to type on, with its name. */
export function TextField({ label, labelStands = 'before', onText, ...input }: TextFieldProps) {
  const look =
    labelStands === 'above'
      ? 'grid min-w-0 gap-1 text-sm text-quiet'
      : 'grid grid-cols-[7rem_1fr] items-center gap-3 text-[0.95rem]';
  return (
    <label className={look}>
      {label}
      <input
        autoComplete="off"
        maxLength={200}
        {...input}
        onChange={onText && (({ target }) => onText(target.value))}
        className="w-full min-w-0 rounded-lg border-2 border-faint bg-ground px-2.5 py-1.5 text-base text-ink placeholder:text-quiet focus:border-ink"
      />
    </label>
  );
}
