import { create } from 'qrcode';
import { useMemo } from 'react';

const QUIET_MODULES = 4;

interface QrCodeProps {
  readonly text: string;
  /** "M" bears a smudge; "L" takes the longest texts. */
  readonly correction?: 'M' | 'L';
  readonly className?: string;
}

/** A text for a phone's camera. */
export function QrCode({ text, correction = 'M', className = 'w-56' }: QrCodeProps) {
  const { size, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: correction });
    const dark: string[] = [];
    for (let row = 0; row < modules.size; row++)
      for (let column = 0; column < modules.size; column++)
        if (modules.get(row, column)) dark.push(`M${column} ${row}h1v1h-1z`);
    return { size: modules.size, path: dark.join('') };
  }, [text, correction]);
  const whole = size + 2 * QUIET_MODULES;
  return (
    <svg
      role="img"
      aria-label={`A picture for a phone's camera: ${text.slice(0, 80)}`}
      viewBox={`${-QUIET_MODULES} ${-QUIET_MODULES} ${whole} ${whole}`}
      className={`rounded-lg ${className}`}
      shapeRendering="crispEdges"
    >
      <rect x={-QUIET_MODULES} y={-QUIET_MODULES} width={whole} height={whole} fill="#ffffff" />
      <path d={path} fill="#000000" />
    </svg>
  );
}
