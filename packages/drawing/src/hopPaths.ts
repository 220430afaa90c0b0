import type { BarGeometry, Hop } from '@anchorbeat/core';

/** SVG path data of one system, merged so that a system costs a handful of elements however many hops it has. */
export interface HopPaths {
  readonly fill: string;
  readonly downbeats: string;
  readonly beats: string;
  readonly subdivisions: string;
}

const MIN_SUBDIVISION_PX = 7;
const SUBDIVISION_HEIGHT_PX = 7;

/** Hops stand on y = 0 and rise to negative y. */
export function hopPathsOf(bars: readonly BarGeometry[]): HopPaths {
  const played = bars.filter((bar) => !bar.restRun);
  const resting = bars.filter((bar) => bar.restRun);
  const hops = played.flatMap((bar) => bar.hops);
  const ripples = resting.flatMap((bar) => bar.hops.map(hopPath));
  return {
    fill: hops.map((hop) => `${hopPath(hop)}Z`).join(''),
    downbeats: played.map((bar) => (bar.hops[0] ? hopPath(bar.hops[0]) : '')).join(''),
    beats: played.flatMap((bar) => bar.hops.slice(1).map(hopPath)).join(''),
    subdivisions: [...hops.map(subdivisionPath), ...ripples].join(''),
  };
}

/** A quadratic curve whose top is `heightPx` above the line. */
export function hopPath({ xPx, widthPx, heightPx }: Pick<Hop, 'xPx' | 'widthPx' | 'heightPx'>): string {
  return `M${px(xPx)} 0Q${px(xPx + widthPx / 2)} ${px(-2 * heightPx)} ${px(xPx + widthPx)} 0`;
}

function subdivisionPath(hop: Hop): string {
  const widthPx = hop.widthPx / hop.parts;
  if (hop.parts < 2 || widthPx < MIN_SUBDIVISION_PX) return '';
  return Array.from({ length: hop.parts }, (_, part) =>
    hopPath({ xPx: hop.xPx + part * widthPx, widthPx, heightPx: SUBDIVISION_HEIGHT_PX }),
  ).join('');
}

function px(value: number): string {
  return String(Math.round(value * 100) / 100);
}

/** Where a bead is `share` (0 to 1) of the way through a hop, on the very curve that is drawn. */
export function pointOnHop(hop: Hop, share: number): { readonly x: number; readonly y: number } {
  return { x: hop.xPx + share * hop.widthPx, y: -4 * hop.heightPx * share * (1 - share) };
}
