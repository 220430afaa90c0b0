import { SimulatedStage, type SoundGroup } from '@anchorbeat/audio';
import type { DeviceOutput, PlaybackPorts } from '../sound/ports.ts';

/** A device whose clock is moved by hand: what it is given to sound can be looked at. */
export class SimulatedDevice extends SimulatedStage implements DeviceOutput {
  hasVoice = false;
  level = 0;
  setLevel = (level: number) => void (this.level = level);
  readonly groupLevels = new Map<SoundGroup, number>();
  setGroupLevel = (group: SoundGroup, level: number) => void this.groupLevels.set(group, level);
  setHands = () => undefined;
  setWords = () => Promise.resolve(void (this.hasVoice = true));
  dueSeconds = (pageMs: number) => pageMs / 1000;

  /** What was not taken back. */
  heard() {
    return this.sounds.filter(({ isCancelled }) => !isCancelled);
  }
}

/** Ports of a page that sounds through a simulated device, and a clock that moves it and draws what it shows. */
export function simulatedPorts(device: SimulatedDevice) {
  const frames = new Set<() => void>();
  let ids = 0;
  const ports: PlaybackPorts = {
    askMaybe: () => null,
    openOutput: () => device,
    timer: device,
    everyFrame: (show) => {
      frames.add(show);
      return () => frames.delete(show);
    },
    wait: () => Promise.resolve(),
    nowMs: () => 1_700_000_000_000 + device.nowSeconds() * 1000,
    newId: () => `run ${++ids}`,
  };
  /** Lets a moment pass: timers wake, and one frame is drawn at its end. */
  const pass = (seconds: number) => {
    device.run(seconds);
    for (const show of [...frames]) show();
  };
  return { ports, pass };
}
