import {
  sectionSpans,
  sectionsOf,
  systemGeometry,
  systemsOf,
  type BarGeometry,
  type LineScale,
  type LineSystem,
  type Seam,
  type SectionSpan,
} from '@anchorbeat/core';
import { useMemo } from 'react';
import type { Proof } from '@anchorbeat/core';

/** The line of a piece broken into systems; the geometry of a system is worked out when it is first asked for. */
export interface LineLayout {
  readonly proof: Proof;
  readonly systems: readonly LineSystem[];
  /** Sections that the piece says something of, and when they play: a lane each under the line. */
  readonly sections: readonly string[];
  readonly sectionSpans: readonly SectionSpan[];
  readonly hasNotes: boolean;
  readonly geometryOf: (systemIndex: number) => readonly BarGeometry[];
  readonly systemOfBar: (barIndex: number) => number;
  /** Seams by the written bar they lead into, where it is first heard. */
  readonly seamsByBar: ReadonlyMap<number, Seam>;
  readonly seamOf: (bar: BarGeometry) => Seam | undefined;
}

/** From farther away than this one looks at the shape of the whole: lanes and words are left out. */
const FAR_PIXELS_PER_SECOND = 40;

export function useLine(proof: Proof, scale: LineScale, widthPx: number): LineLayout {
  const { trueTo, pixelsPerSecond, pixelsPerWhole } = scale;
  return useMemo(
    () => layoutLine(proof, { trueTo, pixelsPerSecond, pixelsPerWhole }, widthPx),
    [proof, trueTo, pixelsPerSecond, pixelsPerWhole, widthPx],
  );
}

function layoutLine(proof: Proof, scale: LineScale, widthPx: number): LineLayout {
  const { piece, compiled } = proof;
  const systems = systemsOf({ piece, compiled }, scale, Math.max(widthPx, 60));
  const geometries = new Map<number, readonly BarGeometry[]>();
  const geometryOf = (systemIndex: number) => {
    const known = geometries.get(systemIndex);
    if (known) return known;
    const system = systems[systemIndex];
    if (!system) throw new RangeError(`there is no system ${systemIndex}`);
    const geometry = systemGeometry({ piece, compiled }, scale, system);
    geometries.set(systemIndex, geometry);
    return geometry;
  };
  const byBar = seamsByBar(proof);
  const spans = sectionSpans(piece);
  const isFar = scale.pixelsPerSecond < FAR_PIXELS_PER_SECOND;
  const said = spans.filter((span) => span.from > 0 || span.to < piece.bars.length);
  return {
    proof,
    systems,
    sections: isFar
      ? []
      : sectionsOf(piece).filter((section) => said.some((span) => span.section === section)),
    sectionSpans: spans,
    hasNotes: !isFar && piece.bars.some((bar) => bar.note !== undefined),
    geometryOf,
    systemOfBar: (bar) => systemOfBar(systems, bar),
    seamsByBar: byBar,
    seamOf: (bar) => byBar.get(bar.barIndex),
  };
}

function systemOfBar(systems: readonly LineSystem[], barIndex: number): number {
  let low = 0;
  let high = systems.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if ((systems[middle]?.firstBar ?? 0) <= barIndex) low = middle;
    else high = middle - 1;
  }
  return low;
}

function seamsByBar({ compiled }: Proof): ReadonlyMap<number, Seam> {
  const { route } = compiled.timeline;
  const byBar = new Map<number, Seam>();
  for (const seam of compiled.seams) {
    const bar = route.barIndex[seam.performed] ?? -1;
    if (!byBar.has(bar)) byBar.set(bar, seam);
  }
  return byBar;
}
