declare module 'midifile' {
  interface ReadEvent {
    readonly delta: number;
    readonly type: number;
    readonly subtype: number;
    readonly tempo?: number;
    readonly param1?: number;
    readonly param2?: number;
  }

  class MIDIFile {
    constructor(buffer: ArrayBuffer);
    readonly header: { getTicksPerBeat(): number };
    getTrackEvents(track: number): readonly ReadEvent[];
  }

  export = MIDIFile;
}
