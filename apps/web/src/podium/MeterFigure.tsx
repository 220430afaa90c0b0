import { formatMeter, type Meter } from '@anchorbeat/core';
import { meterShapes, meterWidth } from '@anchorbeat/drawing';
import { Shapes } from '../line/Shapes.tsx';

const SIZE_PX = 132;

/** The meter as printed, large enough for two metres. */
export function MeterFigure({ meter }: { readonly meter: Meter }) {
  const size = SIZE_PX * Math.min(1, 300 / meterWidth(meter, SIZE_PX));
  const width = meterWidth(meter, size);
  return (
    <svg
      viewBox={`0 0 ${width} ${SIZE_PX * 1.06}`}
      role="img"
      aria-label={formatMeter(meter)}
      className="block h-[clamp(4rem,17cqmin,8.75rem)] shrink-0"
    >
      <Shapes shapes={meterShapes(meter, { x: 0, y: SIZE_PX * 0.53, size }, 'ink')} />
    </svg>
  );
}
