import type { NoteNames, PlayedChoice, RoomState, StandReport } from '@anchorbeat/core';

/** Where sockets meet. */
export const SOCKET_PATH = '/api/socket';

export interface RoomResponse {
  readonly id: string;
  readonly ensembleId: string;
  readonly code: string;
  readonly expiresAt: string;
  /** Where a phone in the hall finds its stand, the likeliest first; on this machine only where the server is not open to the hall. */
  readonly addresses: readonly string[];
  readonly isOpenToHall: boolean;
}

/** What a code opens. */
export interface JoinResponse {
  readonly ensembleName: string;
  readonly noteNames: NoteNames;
  readonly sections: readonly string[];
  /** Null where only the sections were asked for. */
  readonly stand: {
    readonly id: string;
    readonly token: string;
    readonly section: string;
    readonly name: string;
  } | null;
}

/** A stand as the director sees it. */
export interface StandPresence extends StandReport {
  readonly standId: string;
  readonly section: string;
  readonly name: string;
  readonly isConnected: boolean;
  /** Seconds since it was heard of last. */
  readonly silentSeconds: number;
}

/** What a stand played along with a run, as those who lead get it. */
export interface StandTake {
  readonly standId: string;
  readonly section: string;
  readonly name: string;
  readonly runId: string;
  readonly play: PlayedChoice;
  /** Seconds of the run. */
  readonly onsets: readonly number[];
}

/** What the server answers to everything that is said on a socket. */
export type Answer<T = null> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly detail: string };

/** The server's stamps of one exchange of clocks, on its monotonic clock. */
export interface ClockStamps {
  readonly receivedMs: number;
  readonly answeredMs: number;
}

/** What comes over the socket by itself. */
export interface RoomEvents {
  /** All of the room, on coming in and whenever anything but a run's commands changes. */
  readonly room: (state: RoomState) => void;
  /** Who stands where; to those who lead only. */
  readonly presence: (stands: readonly StandPresence[]) => void;
  /** What the stands played along with the last run; to those who lead only. */
  readonly takes: (takes: readonly StandTake[]) => void;
  /** The room is over, or this stand was taken out of it. */
  readonly over: (detail: string) => void;
}
