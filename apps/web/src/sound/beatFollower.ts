import type { RunMoment } from '@anchorbeat/core';
import { beatKey } from './sounding.ts';

/** Watches what is heard, frame by frame, and tells of every beat once. */
export class BeatFollower {
  private endFrames: () => void = () => undefined;
  private lastBeat = '';

  constructor(
    private readonly everyFrame: (show: () => void) => () => void,
    private readonly momentMaybe: () => RunMoment | null,
    private readonly tell: (moment: RunMoment) => void,
  ) {}

  begin(): void {
    this.end();
    this.lastBeat = '';
    this.endFrames = this.everyFrame(() => {
      const moment = this.momentMaybe();
      if (!moment) return;
      const beat = beatKey(moment);
      if (beat === this.lastBeat) return;
      this.lastBeat = beat;
      this.tell(moment);
    });
  }

  end(): void {
    this.endFrames();
  }
}
