import { anchoredBars, barsInMiniature, drawnRests, hopPath, hopPathsOf } from '@anchorbeat/drawing';
import { memo } from 'react';
import type { Proof } from '@anchorbeat/core';

const HEIGHT_PX = 46;
const MAX_HOP_PX = 26;
const REST_HOP_PX = 5;

/** A whole piece on one small line: one hop a bar, true to time, and a weight wherever there is a seam. */
export const Miniature = memo(function Miniature({
  proof,
  width,
}: {
  readonly proof: Proof;
  readonly width: number;
}) {
  const bars = barsInMiniature(proof, width, (seconds) => Math.min(3 + 7 * seconds ** 1.25, MAX_HOP_PX));
  const seams = anchoredBars(proof.compiled);
  const paths = hopPathsOf(bars);
  const rests = drawnRests(bars).map((rest) => hopPath({ ...rest, heightPx: REST_HOP_PX }));
  return (
    <svg width={width} height={HEIGHT_PX} className="block overflow-visible" aria-hidden>
      <g transform="translate(0 29)">
        <path d={paths.fill} fill="var(--hop-fill)" />
        <path d={paths.downbeats} fill="none" stroke="var(--ink)" strokeWidth={1.2} />
        <path d={rests.join('')} fill="none" stroke="var(--ink)" strokeWidth={1.2} />
        <path d={`M0 0H${width}`} stroke="var(--ink)" strokeWidth={1.2} />
        {bars.map(
          (bar) =>
            seams.has(bar.barIndex) && (
              <path
                key={bar.barIndex}
                d={`M${bar.xPx} 2V8M${bar.xPx - 3.5} 8H${bar.xPx + 3.5}L${bar.xPx + 2} 14H${bar.xPx - 2}Z`}
                fill="var(--seam)"
                stroke="var(--seam)"
              />
            ),
        )}
      </g>
    </svg>
  );
});
