import { OnsetDetector } from '@anchorbeat/core';
import type { ListeningOrder, ListeningNews } from './listeningMessages.ts';

// What a worklet has around it, and the page has not.
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;
declare const currentFrame: number;
declare const sampleRate: number;

const BLOCK_SAMPLES = 128;
const SILENCE = new Float32Array(BLOCK_SAMPLES);

/** Louder than this, by energy, something of ours is sounding. */
const SOUNDING_ENERGY = 1e-7;

/**
 * Listens to the microphone (first input) and to what the page itself sounds (second). Tells each onset by the clock of the
 * sound. Nothing of what is heard is kept or leaves this thread.
 */
class OnsetsProcessor extends AudioWorkletProcessor {
  private readonly detector = new OnsetDetector(sampleRate);
  private startSeconds: number | null = null;
  private order: ListeningOrder = { latencySeconds: 0, learnsUntilSeconds: -Infinity, masks: true };

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ListeningOrder>) => (this.order = data);
  }

  process([microphone, ours]: ReadonlyArray<readonly Float32Array[]>): boolean {
    // Once it has begun, a microphone that gives nothing for a moment is silent: time goes on.
    const samples = microphone?.[0] ?? (this.startSeconds === null ? null : SILENCE);
    if (!samples) return true;
    const nowSeconds = currentFrame / sampleRate;
    this.startSeconds ??= nowSeconds;
    const own = ours?.[0];
    if (own && this.order.masks && energyOf(own) > SOUNDING_ENERGY) {
      const heardSeconds = nowSeconds + this.order.latencySeconds;
      this.detector.expectClick({
        seconds: heardSeconds - this.startSeconds,
        isLearning: heardSeconds < this.order.learnsUntilSeconds,
      });
    }
    for (const seconds of this.detector.push(samples))
      this.port.postMessage({ seconds: this.startSeconds + seconds } satisfies ListeningNews);
    return true;
  }
}

function energyOf(samples: Float32Array): number {
  let sum = 0;
  for (const sample of samples) sum += sample * sample;
  return sum / samples.length;
}

registerProcessor('onsets', OnsetsProcessor);
