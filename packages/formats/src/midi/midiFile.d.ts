declare module 'midi-file' {
  export interface MidiEvent {
    readonly deltaTime: number;
    readonly type: string;
    readonly text?: string;
    readonly numerator?: number;
    readonly denominator?: number;
    readonly metronome?: number;
    readonly microsecondsPerBeat?: number;
    readonly key?: number;
    readonly scale?: number;
  }

  export interface MidiData {
    readonly header: {
      readonly format: number;
      readonly numTracks: number;
      readonly ticksPerBeat?: number;
      readonly framesPerSecond?: number;
    };
    readonly tracks: ReadonlyArray<readonly MidiEvent[]>;
  }

  export function parseMidi(data: ArrayLike<number>): MidiData;
}
