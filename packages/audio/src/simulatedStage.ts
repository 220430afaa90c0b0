import type { RunClick, RunSounds } from '@anchorbeat/core';
import type { SoundOutput, WakeTimer } from './ports.ts';

/** A sound as it was handed to a simulated output. */
export interface SimulatedSound {
  readonly click: RunClick;
  readonly whenSeconds: number;
  readonly handedOverAt: number;
  isCancelled: boolean;
}

/** An output and a timer on a clock that is moved by hand: what a player hands over can be looked at, nothing is heard. */
export class SimulatedStage implements SoundOutput, WakeTimer {
  readonly sampleRate = 44_100;
  readonly sounds: SimulatedSound[] = [];
  private readonly wakes = new Map<() => void, number>();

  /** `now` is what the clock says at first, in seconds. */
  constructor(private now = 0) {}

  nowSeconds = () => this.now;
  latencySeconds = () => 0;
  resume = () => Promise.resolve();

  schedule(click: RunClick, whenSeconds: number) {
    const sound = { click, whenSeconds, handedOverAt: this.now, isCancelled: false };
    this.sounds.push(sound);
    return { cancel: () => void (sound.isCancelled = true) };
  }

  every(periodSeconds: number, wake: () => void) {
    this.wakes.set(wake, periodSeconds);
    return () => void this.wakes.delete(wake);
  }

  /** Lets time pass; the timers wake as they would. */
  run(seconds: number): void {
    const end = this.now + seconds;
    while (this.now < end) {
      this.now = Math.min(end, this.now + Math.min(0.25, ...this.wakes.values()));
      for (const wake of [...this.wakes.keys()]) wake();
    }
  }

  /** The sounds of a run, whose first ones take so long to work out. */
  slow(sounds: RunSounds, blockedSeconds: number): RunSounds {
    let isFirst = true;
    return {
      ...sounds,
      clicksIn: (range) => {
        if (isFirst) this.stall(blockedSeconds);
        isFirst = false;
        return sounds.clicksIn(range);
      },
    };
  }

  /** Time passes while everything is blocked. */
  stall(seconds: number): void {
    this.now += seconds;
  }
}
