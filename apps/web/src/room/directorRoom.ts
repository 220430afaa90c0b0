import { maySound, type RoomRun, type RunSaying, type RunSettings } from '@anchorbeat/core';
import type { RoomResponse } from '@anchorbeat/contract';
import type { RoomLink, RoomView } from './roomLink.ts';
import { SayingsInTurn } from './sayingsInTurn.ts';

/** A run as it is asked for in a room. */
export interface WantedRun {
  readonly runId: string;
  readonly pieceId: string;
  readonly revision: number;
  readonly title: string;
  readonly settings: RunSettings;
  readonly performed: number;
  /** What is called before the count-off; null for nothing. */
  readonly call: string | null;
}

/** A rehearsal that is over for this page, and since when (`Date.now()`). */
export interface Over {
  readonly roomId: string;
  readonly atMs: number;
}

/** What the director's page knows of the rehearsal it has opened; all null while it has opened none. */
export interface DirectorView {
  readonly response: RoomResponse | null;
  readonly view: RoomView | null;
  /** The last one that was over without this page having left it. */
  readonly over: Over | null;
}

/** What a director's page has of its line to a room. */
export type DirectorLine = Pick<RoomLink, 'subscribe' | 'get' | 'say' | 'serverMsAt' | 'pageMsAt' | 'close'>;

/** The line is loaded when a room is opened. */
async function lineTo(roomId: string): Promise<DirectorLine> {
  const { RoomLink: Link } = await import('./roomLink.ts');
  return new Link({ roomId });
}

/** On a network where no clock is ever known well, one goes by what is known after so long. */
const CLOCK_WAIT_MS = 2000;

/** A rehearsal that is asked for, or whose line does not stand after so long, is gone on without. */
const ENTER_WAIT_MS = 2000;

/** The director's hand on a room: what is said there, and what comes back. */
export class DirectorRoom {
  private link: DirectorLine | null = null;
  private linkedAtMs = 0;
  private isAsked = false;
  private enteringSinceMs = 0;
  private endFollowing: () => void = () => undefined;
  private snapshot: DirectorView = { response: null, view: null, over: null };
  private readonly listeners = new Set<() => void>();
  /** Told why a rehearsal is over that this page has not left by itself. */
  onOver: (words: string) => void = () => undefined;
  private readonly sayings = new SayingsInTurn((runId, known, saying) =>
    this.say('say', { runId, known, ...saying }),
  );

  constructor(
    private readonly openLine = lineTo,
    private readonly nowMs = () => performance.now(),
    private readonly pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms)),
  ) {}

  readonly subscribe = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  readonly get = (): DirectorView => this.snapshot;

  /** Whether the server is being asked for a rehearsal, which is not known to be open or not before it answers. */
  setAsked(isAsked: boolean): void {
    if (isAsked === this.isAsked) return;
    if (isAsked) this.enteringSinceMs = this.nowMs();
    this.isAsked = isAsked;
    this.show({});
  }

  /** Enters a room that is open on the server; entering it again changes nothing but its code. */
  async enter(response: RoomResponse): Promise<void> {
    const isSame = this.snapshot.response?.id === response.id;
    this.show(isSame ? { response } : { response, view: null });
    if (isSame) return;
    this.enteringSinceMs = this.nowMs();
    this.endFollowing();
    this.link?.close();
    const link = await this.openLine(response.id);
    if (this.snapshot.response?.id !== response.id) {
      link.close();
      return;
    }
    this.link = link;
    this.linkedAtMs = this.nowMs();
    this.endFollowing = link.subscribe(() => {
      const view = link.get();
      if (view.over === null) this.show({ view });
      else {
        this.leave({ roomId: response.id, atMs: Date.now() });
        this.onOver(view.over);
      }
    });
  }

  leave(over: Over | null = null): void {
    this.endFollowing();
    this.link?.close();
    this.link = null;
    this.show({ response: null, view: null, over });
  }

  /** Whether runs are given to a room: it is open, and its line stands. */
  get isOpen(): boolean {
    return this.snapshot.view?.connection === 'open';
  }

  /** Whether a rehearsal is being entered: it is asked for, or its line does not stand yet. One that was lost is not. */
  private get isEntering(): boolean {
    const { response, view } = this.snapshot;
    return this.isAsked || (response !== null && (view?.connection ?? 'connecting') === 'connecting');
  }

  /** Resolves once it is known whether runs are given to a room: at once, but where a page was only just loaded. */
  async untilEntered(): Promise<void> {
    const leftMs = this.enteringSinceMs + ENTER_WAIT_MS - this.nowMs();
    if (!this.isEntering || leftMs <= 0) return;
    await Promise.race([this.until(() => !this.isEntering), this.pause(leftMs)]);
  }

  /** Whether the room's clock is known: well enough to sound by, or as well as can be had here. */
  get knowsClock(): boolean {
    const { view } = this.snapshot;
    if (!view || !Number.isFinite(view.clock.standardErrorMs)) return false;
    return maySound(view.clock) || this.nowMs() - this.linkedAtMs > CLOCK_WAIT_MS;
  }

  /** Resolves once the clock is known, which is compared again and again; or where there is nobody to compare it with. */
  untilClockKnown(): Promise<void> {
    return this.until(() => !this.isOpen || this.knowsClock);
  }

  private until(isSo: () => boolean): Promise<void> {
    return new Promise((resolve) => {
      const look = () => {
        if (!isSo()) return;
        end();
        resolve();
      };
      const end = this.subscribe(look);
      look();
    });
  }

  get run(): RoomRun | null {
    return this.snapshot.view?.room?.run ?? null;
  }

  serverNowMs(): number {
    return this.serverMsAt(performance.now());
  }

  serverMsAt(pageMs: number): number {
    return this.link?.serverMsAt(pageMs) ?? 0;
  }

  pageMsAt(serverMs: number): number {
    return this.link?.pageMsAt(serverMs) ?? 0;
  }

  /** @throws Error with the server's words where it is refused, or nobody answers. */
  async say(event: string, message: object): Promise<void> {
    if (!this.link) throw new Error('No rehearsal is open');
    const answer = await this.link.say(event, message);
    if (!answer.ok) throw new Error(answer.detail);
  }

  /** Starts a run everywhere; gives it as the room has it, with the moment it begins. The room is told before the answer comes. */
  async start(wanted: WantedRun): Promise<RoomRun> {
    await this.say('start', wanted);
    const { run } = this;
    if (run?.id !== wanted.runId) throw new Error('Another run has begun meanwhile');
    return run;
  }

  /** Says something to a run of which so many commands are known, after what was said to it before. */
  sayTo(runId: string, known: number, saying: RunSaying): Promise<void> {
    return this.sayings.say(runId, known, saying);
  }

  private show(changes: Partial<DirectorView>): void {
    this.snapshot = { ...this.snapshot, ...changes };
    for (const tell of [...this.listeners]) tell();
  }
}
