import { Injectable } from '@nestjs/common';
import type { StandReport } from '@anchorbeat/core';
import type { StandPresence } from '@anchorbeat/contract';
import { serverNowMs } from './serverClock.ts';
import { Siblings, type KnownStand } from './siblings.ts';

interface Known extends KnownStand {
  readonly heardMs: number;
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
/** Stands say how they are every other second: who has not for so long is lost, with whatever process held it. */
const LOST_MS = 15_000;

/** Which stands are in which room, and what they say of themselves. Not kept: who is there says so again. */
@Injectable()
export class Presence {
  private readonly rooms = new Map<string, Map<string, Known>>();

  constructor(private readonly siblings: Siblings) {
    siblings.onNews((news) => {
      if (news.kind === 'stand') this.put(news.roomId, news.standId, news.stand);
    });
  }

  connected(roomId: string, standId: string, section: string, name: string): void {
    const report = this.of(roomId).get(standId)?.report ?? NOT_YET;
    this.tell(roomId, standId, { section, name, report, isConnected: true });
  }

  report(roomId: string, standId: string, report: StandReport): void {
    this.change(roomId, standId, { report, isConnected: true });
  }

  rename(roomId: string, standId: string, section: string, name: string): void {
    this.change(roomId, standId, { section, name });
  }

  disconnected(roomId: string, standId: string): void {
    this.change(roomId, standId, { isConnected: false });
  }

  forget(roomId: string, standId: string): void {
    this.tell(roomId, standId, null);
  }

  private change(roomId: string, standId: string, changes: Partial<KnownStand>): void {
    const known = this.of(roomId).get(standId);
    if (!known) return;
    const { section, name, report, isConnected } = known;
    this.tell(roomId, standId, { section, name, report, isConnected, ...changes });
  }

  /** Known here, and by the other processes. */
  private tell(roomId: string, standId: string, stand: KnownStand | null): void {
    this.put(roomId, standId, stand);
    this.siblings.send({ kind: 'stand', roomId, standId, stand });
  }

  private put(roomId: string, standId: string, stand: KnownStand | null): void {
    if (stand) this.of(roomId).set(standId, { ...stand, heardMs: serverNowMs() });
    else this.of(roomId).delete(standId);
  }

  list(roomId: string): readonly StandPresence[] {
    const now = serverNowMs();
    const stands = this.of(roomId);
    for (const [standId, { isConnected, heardMs }] of stands)
      if (!isConnected && now - heardMs > FORGOTTEN_MS) stands.delete(standId);
    return [...stands]
      .map(([standId, { section, name, report, isConnected, heardMs }]) => {
        const isThere = isConnected && now - heardMs < LOST_MS;
        return {
          ...report,
          ...(!isThere && { state: 'lost' as const }),
          standId,
          section,
          name,
          isConnected: isThere,
          silentSeconds: isThere ? 0 : Math.round((now - heardMs) / 1000),
        };
      })
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
