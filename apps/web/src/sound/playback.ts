import { Player, WebAudioOutput, type WakeTimer } from '@anchorbeat/audio';
import { countOffFor, runMomentMaybe, runPlanOf, type RunMoment, type RunPlan } from '@anchorbeat/core';
import type { Proof } from '../compiled/useCompiled.ts';
import type { AppStore } from '../store/store.ts';
import { barBeat, countOffBeat, levelSet, starting, stopped } from '../store/transportSlice.ts';

interface Run {
  readonly proof: Proof;
  readonly performed: number;
  readonly plan: RunPlan;
}

const pageTimer: WakeTimer = {
  every: (periodSeconds, wake) => {
    const id = setInterval(wake, periodSeconds * 1000);
    return () => clearInterval(id);
  },
};

/**
 * The one way from screens to sound: counts in, stops, and says what is being heard. It holds the audio
 * objects and tells the store each beat as it is heard.
 */
export class Playback {
  private output: WebAudioOutput | null = null;
  private player: Player | null = null;
  private run: Run | null = null;
  private frame = 0;
  private lastBeat = '';

  constructor(private readonly store: AppStore) {}

  /** Counts off the performed bar and runs on from there to the end of the piece. */
  async countIn(proof: Proof, performed: number): Promise<void> {
    const countOff = countOffFor(proof.piece, proof.compiled.timeline, performed);
    const plan = runPlanOf(proof, countOff, performed);
    this.run = { proof, performed, plan };
    this.lastBeat = '';
    this.store.dispatch(starting({ performed }));
    try {
      await this.openPlayer().start(plan, () => this.stop());
    } catch (error) {
      this.stop();
      throw new Error('This browser gives no sound: check its sound permission for this page', {
        cause: error,
      });
    }
    cancelAnimationFrame(this.frame);
    this.follow();
  }

  /** Sounds a plan that belongs to no place of the piece, such as two tempi that meet; it resolves when it has ended. */
  async audition(plan: RunPlan): Promise<void> {
    this.stop();
    await new Promise<void>((resolve, reject) => {
      this.openPlayer().start(plan, resolve).catch(reject);
    });
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
    this.player?.stop();
    this.run = null;
    this.store.dispatch(stopped());
  }

  get isRunning(): boolean {
    return this.run !== null;
  }

  get plan(): RunPlan | null {
    return this.run?.plan ?? null;
  }

  /** The performed bar the run was counted into. */
  get entryPerformed(): number {
    return this.run?.performed ?? 0;
  }

  /** What is heard at this moment, or null while nothing runs. */
  momentMaybe(): RunMoment | null {
    const runSeconds = this.player?.runSecondsMaybe() ?? null;
    if (!this.run || runSeconds === null) return null;
    const { proof, plan } = this.run;
    return runMomentMaybe(proof.piece, proof.compiled, plan, runSeconds);
  }

  /** Sets the level, from 0 to 1, gliding there; a fresh window starts quiet. */
  setLevel(level: number): void {
    const clamped = Math.min(Math.max(level, 0), 1);
    this.store.dispatch(levelSet(clamped));
    this.output?.setLevel(clamped);
  }

  get level(): number {
    return this.store.getState().transport.level;
  }

  private openPlayer(): Player {
    if (this.player) return this.player;
    this.output = new WebAudioOutput(new AudioContext({ latencyHint: 'interactive' }));
    this.output.setLevel(this.level);
    this.player = new Player(this.output, pageTimer);
    return this.player;
  }

  private follow(): void {
    this.frame = requestAnimationFrame(() => this.follow());
    const moment = this.momentMaybe();
    if (!moment) return;
    const beat = beatKey(moment);
    if (beat === this.lastBeat) return;
    this.lastBeat = beat;
    this.store.dispatch(moment.phase === 'countOff' ? countOffBeat(moment) : barBeat(moment));
  }
}

function beatKey(moment: RunMoment): string {
  return moment.phase === 'countOff'
    ? `count ${moment.beatIndex}`
    : `bar ${moment.performed} ${moment.beatIndex}`;
}
