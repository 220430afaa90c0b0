import {
  clockLineOf,
  exchangesAfter,
  exchangeWaitMs,
  isLocked,
  maySound,
  serverMsOf,
  UNKNOWN_CLOCK,
} from '@anchorbeat/core';
import { SOCKET_PATH } from '@anchorbeat/contract';
import { io } from 'socket.io-client';

const REPORT_EVERY_MS = 2000;
/** A packet that was lost comes again after so long, as TCP sends it. */
const SENT_AGAIN_MS = 200;

/** The time of the rooms on this machine: what a stand's clock should say, known here because all is one machine. */
export function trueServerMs() {
  return Number(process.hrtime.bigint() / 1000n) / 1000;
}

/**
 * A phone on a stand, with a network and a clock of its own: it joins by the code, finds the room's clock through the
 * network it was given, reports, and knows when it would sound each run.
 */
export class SimulatedStand {
  exchanges = [];
  clock = UNKNOWN_CLOCK;
  room = null;
  runSeen = null;
  reached = null;
  timers = [];
  isClosed = false;

  constructor(
    url,
    { delayMs = 0, jitterMs = 0, lossPercent = 0, offsetMs = 0, drift = 0, random = Math.random } = {},
  ) {
    Object.assign(this, { url, delayMs, jitterMs, lossPercent, offsetMs, drift, random });
  }

  /** This phone's own clock, set wrong and drifting. */
  pageMs() {
    return trueServerMs() * (1 + this.drift) + this.offsetMs;
  }

  async join(code, section, name) {
    const answer = await fetch(`${this.url}/api/join`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ code, section, name }),
    });
    const joined = await answer.json();
    if (!joined.stand) throw new Error(joined.detail ?? 'the code opens nothing');
    this.socket = io(this.url, {
      path: SOCKET_PATH,
      auth: { token: joined.stand.token },
      transports: ['websocket'],
      forceNew: true,
      rejectUnauthorized: false,
      reconnectionDelay: 300,
      reconnectionDelayMax: 1500,
    });
    this.socket.on('room', (room) => void this.way().then(() => this.seen(room)));
    await new Promise((resolve, reject) => {
      this.socket.once('connect', resolve);
      this.socket.once('connect_error', reject);
    });
    this.exchangeOn(0);
    this.timers.push(setInterval(() => this.report(), REPORT_EVERY_MS * (0.9 + this.random() / 5)));
  }

  seen(room) {
    this.room = room;
    if (room.run && room.run.id !== this.runSeen) {
      this.runSeen = room.run.id;
      this.reached = { id: room.run.id, atMs: trueServerMs() };
    }
  }

  get locked() {
    return isLocked(this.clock);
  }

  get sounds() {
    return maySound(this.clock);
  }

  /** How far this phone's idea of the room's clock is off, in milliseconds. */
  missMs() {
    return serverMsOf(this.clock, this.pageMs()) - trueServerMs();
  }

  close() {
    this.isClosed = true;
    for (const timer of this.timers) clearInterval(timer);
    clearTimeout(this.next);
    this.socket?.disconnect();
  }

  /** One way through its network. */
  way() {
    const lost = this.random() * 100 < this.lossPercent ? SENT_AGAIN_MS : 0;
    const ms = this.delayMs / 2 + (this.jitterMs / 2) * this.random() ** 2 + lost;
    return ms < 0.5 ? Promise.resolve() : new Promise((resolve) => setTimeout(resolve, ms));
  }

  async exchangeOn(count) {
    await this.exchange();
    if (this.isClosed) return;
    this.next = setTimeout(
      () => void this.exchangeOn(count + 1),
      exchangeWaitMs(count + 1, this.clock, this.random()),
    );
  }

  async exchange() {
    if (!this.socket.connected) return;
    const sentMs = this.pageMs();
    await this.way();
    const answer = await this.socket
      .timeout(4000)
      .emitWithAck('clock', {})
      .catch(() => null);
    if (!answer?.ok) return;
    await this.way();
    const backMs = this.pageMs();
    this.exchanges = exchangesAfter(this.exchanges, { ...answer.value, sentMs, backMs });
    this.clock = clockLineOf(this.exchanges, backMs);
  }

  report() {
    if (!this.socket.connected) return;
    const { standardErrorMs, slowRoundTripMs } = this.clock;
    const known = (value) => (Number.isFinite(value) ? Math.min(99_999, value) : null);
    const { run } = this.room ?? {};
    const isRunning = run && run.session.commands.at(-1)?.kind !== 'stop';
    const state = !this.sounds ? 'locking' : isRunning ? 'playing' : 'ready';
    this.socket.emit('report', {
      state,
      withinMs: known(standardErrorMs),
      slowRoundTripMs: known(slowRoundTripMs),
      latencyMs: 0,
      isSeen: true,
    });
  }
}
