import {
  clockLineOf,
  exchangesAfter,
  exchangeWaitMs,
  pageMsOf,
  serverMsOf,
  UNKNOWN_CLOCK,
  type ClockExchange,
  type ClockLine,
  type RoomState,
} from '@anchorbeat/core';
import {
  SOCKET_PATH,
  type Answer,
  type ClockStamps,
  type RoomEvents,
  type StandPresence,
  type StandTake,
} from '@anchorbeat/contract';
import { io, type Socket } from 'socket.io-client';

/** What is known of a room at a moment. */
export interface RoomView {
  readonly connection: 'connecting' | 'open' | 'lost';
  /** When the connection was lost, in page milliseconds. */
  readonly lostSinceMs: number | null;
  readonly room: RoomState | null;
  readonly stands: readonly StandPresence[];
  /** What the stands played along with the last run; those who lead are told. */
  readonly takes: readonly StandTake[];
  readonly clock: ClockLine;
  /** Why this device is no longer part of the room; null while it is. */
  readonly over: string | null;
}

const NOTHING: RoomView = {
  connection: 'connecting',
  lostSinceMs: null,
  room: null,
  stands: [],
  takes: [],
  clock: UNKNOWN_CLOCK,
  over: null,
};

const ANSWER_WAIT_MS = 4000;
const NO_ANSWER: Answer<never> = {
  ok: false,
  detail: 'The server does not answer; what sounds goes on. Do this once more when it is back',
};

/** What a stand needs of its room, be it the hall's or its own. */
export interface RoomLine {
  readonly subscribe: (tell: () => void) => () => void;
  readonly get: () => RoomView;
  readonly serverMsAt: (pageMs: number) => number;
  readonly pageMsAt: (serverMs: number) => number;
  /** Whether it was heard, be it accepted or not. */
  readonly tell: (event: string, message: object) => Promise<boolean>;
  readonly close: () => void;
}

/** A device's line to its room: what the room is, what the server's clock says, and what is said to both. */
export class RoomLink implements RoomLine {
  private readonly socket: Socket<RoomEvents>;
  private readonly listeners = new Set<() => void>();
  private exchanges: readonly ClockExchange[] = [];
  /** Exchanges since the network, or the page, may have changed. */
  private sinceChange = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private view: RoomView = NOTHING;
  private readonly onVisible = () => this.exchangeQuickly();

  /** `auth` is the token of a stand, or the room that a director's cookie opens. */
  constructor(auth: { readonly token: string } | { readonly roomId: string }) {
    this.socket = io({
      path: SOCKET_PATH,
      auth,
      transports: ['websocket', 'polling'],
      reconnectionDelay: 300,
      reconnectionDelayMax: 1500,
      timeout: 5000,
    });
    this.socket.on('connect', () => {
      this.show({ connection: 'open', lostSinceMs: null });
      this.exchangeQuickly();
    });
    this.socket.on('disconnect', (reason) => this.lost(reason === 'io server disconnect'));
    this.socket.on('connect_error', ({ message }) => {
      // A refusal has words; a server that is not there has only those of the transport.
      if (!this.socket.active) this.show({ over: message });
      else this.lost(false);
    });
    this.socket.on('room', (room) => this.show({ room }));
    this.socket.on('presence', (stands) => this.show({ stands }));
    this.socket.on('takes', (takes) => this.show({ takes }));
    this.socket.on('over', (over) => this.show({ over }));
    document.addEventListener('visibilitychange', this.onVisible);
    window.addEventListener('online', this.onVisible);
  }

  readonly subscribe = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  readonly get = (): RoomView => this.view;

  serverMsAt(pageMs: number): number {
    return serverMsOf(this.view.clock, pageMs);
  }

  pageMsAt(serverMs: number): number {
    return pageMsOf(this.view.clock, serverMs);
  }

  /** Says something to the room; the answer says whether it holds, and if not why. */
  async say(event: string, message: object): Promise<Answer> {
    if (!this.socket.connected) return NO_ANSWER;
    return this.ask<Answer>(event, message).catch(() => NO_ANSWER);
  }

  /** Tells what nobody is asked to answer: whether it was heard. */
  async tell(event: string, message: object): Promise<boolean> {
    return (await this.say(event, message)) !== NO_ANSWER;
  }

  close(): void {
    clearTimeout(this.timer);
    document.removeEventListener('visibilitychange', this.onVisible);
    window.removeEventListener('online', this.onVisible);
    this.socket.disconnect();
    this.listeners.clear();
  }

  private ask<T>(event: string, message: object): Promise<T> {
    const socket = this.socket as unknown as Socket;
    return socket.timeout(ANSWER_WAIT_MS).emitWithAck(event, message) as Promise<T>;
  }

  private lost(isForGood: boolean): void {
    clearTimeout(this.timer);
    this.show({ connection: 'lost', lostSinceMs: this.view.lostSinceMs ?? performance.now() });
    // Whom the server itself sent away is not let in by the same words again.
    if (isForGood && this.view.over === null) this.socket.connect();
  }

  /** Many exchanges at once: the network, or the page, may have changed. */
  private exchangeQuickly(): void {
    if (document.visibilityState !== 'visible' && this.exchanges.length > 0) return;
    this.sinceChange = 0;
    clearTimeout(this.timer);
    void this.exchange();
  }

  private async exchange(): Promise<void> {
    if (!this.socket.connected) return;
    const sentMs = performance.now();
    try {
      const answer = await this.ask<Answer<ClockStamps>>('clock', {});
      const backMs = performance.now();
      if (answer.ok) {
        this.exchanges = exchangesAfter(this.exchanges, { ...answer.value, sentMs, backMs });
        this.show({ clock: clockLineOf(this.exchanges, backMs) });
      }
    } catch {
      // It was lost on the way; the next one comes by itself.
    }
    clearTimeout(this.timer);
    this.timer = setTimeout(
      () => void this.exchange(),
      exchangeWaitMs(++this.sinceChange, this.view.clock, Math.random()),
    );
  }

  private show(changes: Partial<RoomView>): void {
    this.view = { ...this.view, ...changes };
    for (const tell of [...this.listeners]) tell();
  }
}
