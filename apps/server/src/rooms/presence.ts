import { Injectable } from '@nestjs/common';
import type { StandReport } from '@anchorbeat/core';
import type { StandPresence } from '@anchorbeat/contract';
import { serverNowMs } from './serverClock.ts';

interface Known {
  section: string;
  name: string;
  report: StandReport;
  isConnected: boolean;
  heardMs: number;
}

const NOT_YET: StandReport = {
  state: 'joining',
  withinMs: null,
  slowRoundTripMs: null,
  latencyMs: 0,
  isSeen: true,
};
/** A stand that has been gone for so long is no longer shown. */
const FORGOTTEN_MS = 3_600_000;

/** Which stands are in which room, and what they say of themselves. Not kept: who is there says so again. */
@Injectable()
export class Presence {
  private readonly rooms = new Map<string, Map<string, Known>>();

  connected(roomId: string, standId: string, section: string, name: string): void {
    const before = this.of(roomId).get(standId);
    this.of(roomId).set(standId, {
      section,
      name,
      report: before?.report ?? NOT_YET,
      isConnected: true,
      heardMs: serverNowMs(),
    });
  }

  report(roomId: string, standId: string, report: StandReport): void {
    const known = this.of(roomId).get(standId);
    if (known) Object.assign(known, { report, heardMs: serverNowMs(), isConnected: true });
  }

  rename(roomId: string, standId: string, section: string, name: string): void {
    const known = this.of(roomId).get(standId);
    if (known) Object.assign(known, { section, name });
  }

  disconnected(roomId: string, standId: string): void {
    const known = this.of(roomId).get(standId);
    if (known) Object.assign(known, { isConnected: false, heardMs: serverNowMs() });
  }

  forget(roomId: string, standId: string): void {
    this.of(roomId).delete(standId);
  }

  list(roomId: string): readonly StandPresence[] {
    const now = serverNowMs();
    const stands = this.of(roomId);
    for (const [standId, { isConnected, heardMs }] of stands)
      if (!isConnected && now - heardMs > FORGOTTEN_MS) stands.delete(standId);
    return [...stands]
      .map(([standId, { section, name, report, isConnected, heardMs }]) => ({
        ...report,
        ...(!isConnected && { state: 'lost' as const }),
        standId,
        section,
        name,
        isConnected,
        silentSeconds: isConnected ? 0 : Math.round((now - heardMs) / 1000),
      }))
      .sort((a, b) => a.section.localeCompare(b.section) || a.name.localeCompare(b.name));
  }

  /** The round trips that nineteen of twenty messages of each stand that is there stay under. */
  slowRoundTrips(roomId: string): readonly number[] {
    return [...this.of(roomId).values()].flatMap(({ report, isConnected }) =>
      isConnected && report.slowRoundTripMs !== null && report.withinMs !== null
        ? [report.slowRoundTripMs]
        : [],
    );
  }

  private of(roomId: string): Map<string, Known> {
    const known = this.rooms.get(roomId) ?? new Map<string, Known>();
    this.rooms.set(roomId, known);
    return known;
  }
}
