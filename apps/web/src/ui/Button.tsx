import type { ButtonHTMLAttributes } from 'react';

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** One filled button a screen: the act one came for. */
  readonly filled?: boolean;
}

export function Button({ filled = false, className = '', ...rest }: ButtonProps) {
  const look = filled ? 'bg-ink text-ground border-ink' : 'border-ink text-ink hover:bg-selection';
  return (
    <button
      type="button"
      {...rest}
      className={`max-w-full touch-manipulation whitespace-nowrap rounded-lg max-sm:whitespace-normal border-2 px-4 py-2 font-semibold disabled:opacity-45 ${look} ${className}`}
    />
  );
}
