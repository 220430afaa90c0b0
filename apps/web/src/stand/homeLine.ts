import { clockLineOf, EMPTY_ROOM, roomAfter, type RoomAct, type RunSaying } from '@anchorbeat/core';
import type { RoomLine, RoomView } from '../room/roomLink.ts';

/** A run at home begins so soon after the press. */
const LEAD_MS = 300;

/** The page's own clock, known as well as can be. */
const OWN_CLOCK = clockLineOf(
  Array.from({ length: 10 }, (_, ms) => ({ sentMs: ms, receivedMs: ms, answeredMs: ms, backMs: ms })),
  10,
);

type HomeRun = Omit<Extract<RoomAct, { readonly kind: 'start' }>, 'kind' | 'runId' | 'call'>;

/** A room of one's own: the same acts come out as in a rehearsal, with nobody else in it and no server. */
export class HomeLine implements RoomLine {
  private readonly listeners = new Set<() => void>();
  private view: RoomView = {
    connection: 'open',
    lostSinceMs: null,
    room: EMPTY_ROOM,
    stands: [],
    takes: [],
    clock: OWN_CLOCK,
    over: null,
  };

  readonly subscribe = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  readonly get = (): RoomView => this.view;

  begin(run: HomeRun): void {
    this.act({ kind: 'start', runId: `home ${performance.now()}`, call: null, ...run });
  }

  /** Says something to the run that goes on; where none does, nothing. */
  say(saying: RunSaying): void {
    const { run } = this.view.room ?? EMPTY_ROOM;
    if (run) this.act({ kind: 'say', runId: run.id, known: run.session.commands.length, saying });
  }

  /** What would be refused changes nothing. */
  private act(act: RoomAct): void {
    const moment = { nowMs: performance.now(), leadMs: LEAD_MS };
    const result = roomAfter(this.view.room ?? EMPTY_ROOM, act, moment);
    if (!result.ok) return;
    this.view = { ...this.view, room: result.value };
    for (const tell of [...this.listeners]) tell();
  }

  readonly serverMsAt = (pageMs: number): number => pageMs;
  readonly pageMsAt = (serverMs: number): number => serverMs;
  readonly tell = (): Promise<boolean> => Promise.resolve(true);

  close(): void {
    this.listeners.clear();
  }
}
