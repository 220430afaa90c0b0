import { CLICK_KINDS, type ClickKind } from '@anchorbeat/core';
import { limiterCurve, LIMITER_RANGE } from './limiter.ts';
import type { ScheduledSound, SoundOutput } from './ports.ts';
import { clickSamples } from './voices.ts';

/** Level a fresh window starts with, as a share of full: quiet (about −14 dB). */
export const QUIET_LEVEL = 0.2;
const LEVEL_GLIDE_SECONDS = 0.15;

/** Sound through the Web Audio clock: click → level → limiter → speakers. Works without a secure context. */
export class WebAudioOutput implements SoundOutput {
  private readonly level: GainNode;
  private readonly buffers: ReadonlyMap<ClickKind, AudioBuffer>;

  constructor(private readonly context: AudioContext) {
    this.level = new GainNode(context, { gain: QUIET_LEVEL / LIMITER_RANGE });
    const limiter = new WaveShaperNode(context, { curve: limiterCurve(), oversample: 'none' });
    this.level.connect(limiter).connect(context.destination);
    this.buffers = new Map(CLICK_KINDS.map((kind) => [kind, clickBuffer(context, kind)]));
  }

  get sampleRate(): number {
    return this.context.sampleRate;
  }

  nowSeconds(): number {
    return this.context.currentTime;
  }

  latencySeconds(): number {
    return (this.context.baseLatency || 0) + (this.context.outputLatency || 0);
  }

  schedule(kind: ClickKind, whenSeconds: number): ScheduledSound {
    const source = new AudioBufferSourceNode(this.context, { buffer: this.buffers.get(kind) ?? null });
    source.connect(this.level);
    source.start(whenSeconds);
    return {
      cancel: () => {
        source.stop();
        source.disconnect();
      },
    };
  }

  /** Sets the level from 0 to 1, gliding there so that it never jumps. */
  setLevel(level: number): void {
    const { gain } = this.level;
    const now = this.context.currentTime;
    gain.cancelScheduledValues(now);
    gain.setTargetAtTime(Math.min(Math.max(level, 0), 1) / LIMITER_RANGE, now, LEVEL_GLIDE_SECONDS / 3);
  }

  async resume(): Promise<void> {
    if (this.context.state !== 'running') await this.context.resume();
  }
}

function clickBuffer(context: AudioContext, kind: ClickKind): AudioBuffer {
  const samples = clickSamples(kind, context.sampleRate);
  const buffer = new AudioBuffer({ length: samples.length, sampleRate: context.sampleRate });
  buffer.copyToChannel(samples, 0);
  return buffer;
}
