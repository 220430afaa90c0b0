import type { RunResponse } from '@anchorbeat/contract';

/** A run over the seam into bar 11, as the log has it. */
export function loggedRun(id: string, changes: Partial<RunResponse> = {}): RunResponse {
  return {
    id,
    placeKind: 'seam',
    barIndex: 10,
    label: '11',
    bars: 0,
    drillId: null,
    way: 'play',
    percent: 80,
    goalPercent: 100,
    bpm: 96,
    mark: 'good',
    sections: [],
    note: '',
    ratingBefore: null,
    ratingAfter: null,
    startedAt: '2026-11-20T19:30:00.000Z',
    lengthSeconds: 20,
    ...changes,
  };
}
