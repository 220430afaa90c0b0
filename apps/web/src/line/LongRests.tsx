import type { BarGeometry } from '@anchorbeat/core';
import { drawnRests, hopPath } from '@anchorbeat/drawing';
import type { ReactNode } from 'react';

const PLAIN_HEIGHT_PX = 26;
const PAGE_HEIGHT_PX = 12;
const MIN_NUMBER_PX = 26;

interface LongRestsProps {
  readonly bars: readonly BarGeometry[];
  /** Small drawings leave the number out. */
  readonly small?: { readonly heightPx: number };
  /** Seen as a page the number is smaller, beside signs that stand closer. */
  readonly isPage?: boolean;
}

/** A rest of several bars as one long low hop with its number; where a system breaks it, the rest of it is told beside. */
export function LongRests({ bars, small, isPage = false }: LongRestsProps): ReactNode {
  const heightPx = small?.heightPx ?? (isPage ? PAGE_HEIGHT_PX : PLAIN_HEIGHT_PX);
  return drawnRests(bars).map(({ run, xPx, widthPx, firstBar }) => {
    const left = run.from + run.count - firstBar;
    const middle = xPx + widthPx / 2;
    return (
      <g key={`${firstBar} ${xPx}`}>
        <path
          d={hopPath({ xPx, widthPx, heightPx })}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={small ? 1.2 : 2.6}
        />
        {!small && widthPx >= MIN_NUMBER_PX && (
          <text
            x={middle}
            y={isPage ? -heightPx - 4 : -heightPx - 7}
            textAnchor="middle"
            fontSize={isPage ? 15 : 24}
            fontWeight={800}
            fill="var(--ink)"
            className="numeral"
          >
            {left}
            {firstBar > run.from && (
              <tspan fontSize={13} fontWeight={600} fill="var(--quiet)">
                {' '}
                of {run.count}
              </tspan>
            )}
          </text>
        )}
      </g>
    );
  });
}
