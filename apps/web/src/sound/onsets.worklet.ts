import { OnsetDetector } from '@anchorbeat/core';
import type { ListeningOrder, ListeningNews } from './listeningMessages.ts';

// What a worklet has around it, and the page has not.
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;
declare const currentFrame: number;
declare const sampleRate: number;

/** Louder than this, by energy, something of ours is sounding. */
const SOUNDING_ENERGY = 1e-7;

/**
 * Listens to the microphone (first input) and to what the page itself sounds (second). Tells each onset by the clock of the
 * sound. Nothing of what is heard is kept or leaves this thread.
 */
class OnsetsProcessor extends AudioWorkletProcessor {
  private readonly detector = new OnsetDetector(sampleRate);
  private startFrame: number | null = null;
  private heardFrames = 0;
  private order: ListeningOrder = { latencySeconds: 0, learnsUntilSeconds: -Infinity, masks: true };

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ListeningOrder>) => (this.order = data);
  }

  process([microphone, ours]: ReadonlyArray<readonly Float32Array[]>): boolean {
    const samples = microphone?.[0];
    if (!samples) return true;
    const nowSeconds = currentFrame / sampleRate;
    this.startFrame ??= currentFrame;
    const startSeconds = this.startFrame / sampleRate;
    // For a moment there may have been nothing to hear, or the browser did not ask: it was silent then, and time went on.
    const missed = currentFrame - this.startFrame - this.heardFrames;
    if (missed > 0) this.hear(new Float32Array(missed), startSeconds);
    const own = ours?.[0];
    if (own && this.order.masks && energyOf(own) > SOUNDING_ENERGY) {
      const heardSeconds = nowSeconds + this.order.latencySeconds;
      this.detector.expectClick({
        seconds: heardSeconds - startSeconds,
        isLearning: heardSeconds < this.order.learnsUntilSeconds,
      });
    }
    this.hear(samples, startSeconds);
    return true;
  }

  private hear(samples: Float32Array, startSeconds: number): void {
    this.heardFrames += samples.length;
    for (const seconds of this.detector.push(samples))
      this.port.postMessage({ seconds: startSeconds + seconds } satisfies ListeningNews);
  }
}

function energyOf(samples: Float32Array): number {
  let sum = 0;
  for (const sample of samples) sum += sample * sample;
  return sum / samples.length;
}

registerProcessor('onsets', OnsetsProcessor);
