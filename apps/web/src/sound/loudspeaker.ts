import { Player, SOUND_GROUPS } from '@anchorbeat/audio';
import type { Words } from './fetchWords.ts';
import { keptGroupLevels, type GroupLevels } from './groupLevels.ts';
import type { DeviceOutput, PlaybackPorts } from './ports.ts';

/** The first run of a window waits no longer than this for its voice. */
const VOICE_WAIT_MS = 400;

/** What a page sounds through, opened at the first sound: its output, its player, its voice and how loud they are. */
export class Loudspeaker {
  output: DeviceOutput | null = null;
  player: Player | null = null;
  private areHandsApart = false;
  /** Settled when the spoken counts are there, or will not be in time: clicks stand for them then. */
  voice: Promise<void> = Promise.resolve();

  constructor(
    private readonly ports: PlaybackPorts,
    private readonly words: () => Promise<Words | null>,
    private readonly levelNow: () => number,
  ) {}

  open(): Player {
    if (this.player) return this.player;
    this.output = this.ports.openOutput();
    this.voice = this.giveVoice(this.output);
    this.sendLevel();
    this.sendGroupLevels();
    if (this.areHandsApart) this.output.setHands(true);
    this.player = new Player(this.output, this.ports.timer);
    return this.player;
  }

  /** Two hands, left and right, or everything in both ears. */
  setHands(areApart: boolean): void {
    this.areHandsApart = areApart;
    this.output?.setHands(areApart);
  }

  sendLevel(): void {
    this.output?.setLevel(this.levelNow());
  }

  /** Sets how loud each group of sounds is against the others, and keeps it. */
  setGroupLevels(levels: GroupLevels): void {
    keptGroupLevels.set(levels);
    this.sendGroupLevels();
  }

  private sendGroupLevels(): void {
    const levels = keptGroupLevels.get();
    for (const group of SOUND_GROUPS) this.output?.setGroupLevel(group, levels[group]);
  }

  /** The words are others by now. */
  async changeVoice(): Promise<void> {
    const words = await this.words();
    if (words) await this.output?.setWords(words.file, words.index, words.own).catch(() => undefined);
  }

  private async giveVoice(output: DeviceOutput): Promise<void> {
    const words = await Promise.race([this.words(), this.ports.wait(VOICE_WAIT_MS).then(() => null)]);
    if (words) await output.setWords(words.file, words.index, words.own).catch(() => undefined);
  }
}
