import { memo } from 'react';
import type { Proof } from '../compiled/useCompiled.ts';
import { hopPathsOf } from './hopPaths.ts';
import { layoutLine } from './useLine.ts';
import { pieceSeconds } from '@anchorbeat/core';

const HEIGHT_PX = 46;

/** A whole piece on one small line: its hops true to time, and a weight wherever there is a seam. */
export const Miniature = memo(function Miniature({ proof, width }: { readonly proof: Proof; readonly width: number }) {
  const seconds = pieceSeconds(proof.compiled.timeline);
  const scale = { trueTo: 'time', pixelsPerSecond: width / seconds, pixelsPerWhole: 1 } as const;
  const layout = layoutLine(proof, scale, Number.MAX_SAFE_INTEGER);
  const bars = layout.systems.flatMap((_, index) => {
    const offset = layout.systems.slice(0, index).reduce((total, system) => total + system.widthPx, 0);
    return layout.geometryOf(index).map((bar) => ({
      ...bar,
      xPx: bar.xPx + offset,
      hops: bar.hops.map((hop) => ({ ...hop, xPx: hop.xPx + offset, heightPx: Math.min(hop.heightPx * 0.36, 24) })),
    }));
  });
  const paths = hopPathsOf(bars);
  return (
    <svg width={width} height={HEIGHT_PX} className="block overflow-visible" aria-hidden>
      <g transform="translate(0 28)">
        <path d={paths.fill} fill="var(--hop-fill)" />
        <path d={paths.beats} fill="none" stroke="var(--ink)" strokeWidth={0.8} />
        <path d={paths.downbeats} fill="none" stroke="var(--ink)" strokeWidth={1.2} />
        <path d={`M0 0H${width}`} stroke="var(--ink)" strokeWidth={1.2} />
        {bars.map(
          (bar) =>
            layout.seamsByBar.has(bar.barIndex) && (
              <path key={bar.barIndex} d={`M${bar.xPx} 2V8M${bar.xPx - 3.5} 8H${bar.xPx + 3.5}L${bar.xPx + 2} 14H${bar.xPx - 2}Z`} fill="var(--seam)" stroke="var(--seam)" />
            ),
        )}
      </g>
    </svg>
  );
});
