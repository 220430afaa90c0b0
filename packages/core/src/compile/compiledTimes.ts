import type { Seam } from '../seam/seam.ts';
import type { TempoMap } from '../tempo/tempoMap.ts';
import type { Timeline } from '../timeline/timeline.ts';

/** The part of a compile that says when things are and where they change; checks build on it. */
export interface CompiledTimes {
  readonly tempoMap: TempoMap;
  readonly timeline: Timeline;
  readonly seams: readonly Seam[];
}
