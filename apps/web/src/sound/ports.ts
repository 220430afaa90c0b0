import {
  WebAudioOutput,
  type RecordedWords,
  type SoundGroup,
  type SoundOutput,
  type WakeTimer,
  type WordIndex,
} from '@anchorbeat/audio';

import { AudioClock } from '../room/audioClock.ts';
import { hearing } from './hearing.ts';
import type { Hears, Listening } from './listeningMessages.ts';
import { pageTimer } from './pageTimer.ts';

/** The output of a device, with what its owner may turn. */
export interface DeviceOutput extends SoundOutput {
  readonly setLevel: (level: number) => void;
  readonly setGroupLevel: (group: SoundGroup, level: number) => void;
  readonly setWords: (file: ArrayBuffer, index: WordIndex, own: RecordedWords | null) => Promise<void>;
  /** Whether words are said, and not clicked. */
  readonly hasVoice: boolean;
  /** When a sound must begin, on the output's clock, to be heard at a moment of the page. */
  readonly dueSeconds: (pageMs: number) => number;
  readonly latencySeconds: () => number;
  readonly setHands: (areApart: boolean) => void;
  /** Listens with the microphone; rejects, in words for a person, where the browser does not let it. */
  readonly listen?: (hears: Hears) => Promise<Listening>;
}

/** Everything of the outside that sounding and showing a run takes. */
export interface PlaybackPorts {
  /** Asks what has to be asked before anything sounds; null where that is nothing, else whether it may begin. */
  readonly askMaybe: () => Promise<boolean> | null;
  /** Called at the first sound, which a person has asked for. */
  readonly openOutput: () => DeviceOutput;
  readonly timer: WakeTimer;
  /** Calls `show` before every frame that is drawn; the returned function ends that. */
  readonly everyFrame: (show: () => void) => () => void;
  readonly wait: (milliseconds: number) => Promise<void>;
  readonly nowMs: () => number;
  readonly newId: () => string;
}

/** The page's loudspeaker, which also knows when what it is given is heard. */
class PageOutput extends WebAudioOutput implements DeviceOutput {
  private clock: AudioClock | null = null;

  constructor(private readonly live: AudioContext) {
    super(live);
  }

  dueSeconds(pageMs: number): number {
    this.clock ??= new AudioClock(this.live, () => 0);
    return this.clock.dueSeconds(pageMs);
  }

  async listen(hears: Hears): Promise<Listening> {
    const { listenOn } = await import('./listening.ts');
    return listenOn(this.live, this, hears);
  }
}

/** The ports of a page. */
export function pagePorts(newId: () => string): PlaybackPorts {
  return {
    askMaybe: hearing.askMaybe,
    openOutput: () => new PageOutput(new AudioContext({ latencyHint: 'interactive' })),
    timer: pageTimer,
    everyFrame: (show) => {
      let id = requestAnimationFrame(function next() {
        id = requestAnimationFrame(next);
        show();
      });
      return () => cancelAnimationFrame(id);
    },
    wait: (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds)),
    nowMs: () => Date.now(),
    newId,
  };
}
