import type { AppStore } from '../store/store.ts';
import type { Playback } from './playback.ts';

/** What windows of one browser tell each other. */
export interface WindowChannel {
  readonly post: (said: SoundingWindow) => void;
  readonly onSaid: (hear: (said: SoundingWindow) => void) => void;
}

/** A window, the run that it sounds, and when somebody last touched it. */
export interface SoundingWindow {
  readonly windowId: string;
  /** Null where it sounds none. */
  readonly runId: string | null;
  readonly touchedAtMs: number;
}

/**
 * Windows of one browser that are in the same rehearsal sound the same run, and would click twice out of the same loudspeaker:
 * of those the one that was last touched is heard.
 */
export class HeardWindow {
  private own: SoundingWindow;
  private readonly others = new Map<string, SoundingWindow>();
  private isNowHeard = true;

  /** `onTurned` is called when this window is to be heard, or is not any more. */
  constructor(
    windowId: string,
    private readonly channel: WindowChannel,
    private readonly onTurned: (isHeard: boolean) => void,
  ) {
    this.own = { windowId, runId: null, touchedAtMs: 0 };
    channel.onSaid((said) => this.hear(said));
  }

  get isHeard(): boolean {
    return this.isNowHeard;
  }

  /** Somebody did something in this window. */
  touch(atMs: number): void {
    this.own = { ...this.own, touchedAtMs: atMs };
    // A window that is heard already need not say so at every key.
    if (!this.isNowHeard) this.channel.post(this.own);
    this.consider();
  }

  /** Which run this window sounds; null for none. */
  sound(runId: string | null): void {
    if (runId === this.own.runId) return;
    this.own = { ...this.own, runId };
    this.channel.post(this.own);
    this.consider();
  }

  private hear(said: SoundingWindow): void {
    const isNews = said.runId !== null && this.others.get(said.windowId)?.runId !== said.runId;
    if (said.runId === null) this.others.delete(said.windowId);
    else this.others.set(said.windowId, said);
    // Who only just came does not know of this one.
    if (isNews && said.runId === this.own.runId) this.channel.post(this.own);
    this.consider();
  }

  private consider(): void {
    const isHeard = [...this.others.values()].every((other) => !isBefore(other, this.own));
    if (isHeard === this.isNowHeard) return;
    this.isNowHeard = isHeard;
    this.onTurned(isHeard);
  }
}

function isBefore(other: SoundingWindow, own: SoundingWindow): boolean {
  if (other.runId === null || other.runId !== own.runId) return false;
  const later = other.touchedAtMs - own.touchedAtMs;
  return later > 0 || (later === 0 && other.windowId < own.windowId);
}

/** From now on a window keeps quiet while another one of its browser is heard in the same run. */
export function hearOneWindow(
  { level }: Pick<Playback, 'level'>,
  store: AppStore,
  windowId: string,
  channel: WindowChannel,
): HeardWindow {
  const one = new HeardWindow(windowId, channel, (isHeard) => level.setElsewhere(!isHeard));
  store.subscribe(() => one.sound(store.getState().transport.run?.id ?? null));
  return one;
}

const CHANNEL = 'anchorbeat.sound';

/** The other windows of this browser; where there is no way to reach them, none. */
export function browserWindows(): WindowChannel {
  if (!('BroadcastChannel' in globalThis)) return { post: () => undefined, onSaid: () => undefined };
  const channel = new BroadcastChannel(CHANNEL);
  return {
    post: (said) => channel.postMessage(said),
    onSaid: (hear) => (channel.onmessage = ({ data }: MessageEvent<SoundingWindow>) => hear(data)),
  };
}
