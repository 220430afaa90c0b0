import { Player, SOUND_GROUPS, WebAudioOutput, type WakeTimer } from '@anchorbeat/audio';
import {
  calledRun,
  changedRun,
  cuedRun,
  endedRun,
  goneOnRun,
  nextBoundaryMaybe,
  runFrom,
  runMomentMaybe,
  type RunMoment,
  type RunPlan,
  type RunSettings,
} from '@anchorbeat/core';
import type { Proof } from '../compiled/useCompiled.ts';
import type { AppStore } from '../store/store.ts';
import { storedGroupLevels, storeGroupLevels, type GroupLevels } from './groupLevels.ts';
import type { Words } from './fetchWords.ts';
import {
  barBeat,
  countOffBeat,
  levelSet,
  muteToggled,
  settingsChanged,
  starting,
  stopped,
} from '../store/transportSlice.ts';

interface Run {
  readonly proof: Proof;
  readonly performed: number;
  plan: RunPlan;
  /** How this run is wanted where it is a drill of its own; else as runs are wanted. */
  settings: RunSettings | null;
}

/** A run with settings of its own, and what is said before its count-off. */
export interface OwnRun {
  readonly settings: RunSettings;
  readonly call: string | null;
}

const CALL_SECONDS = 1.5;

/** A change takes effect at the first beat or bar that is farther off than this: nearer ones may have begun to sound. */
const CHANGE_LEAD_SECONDS = 0.06;

/** The first run of a window waits no longer than this for its voice. */
const VOICE_WAIT_MS = 400;

const pageTimer: WakeTimer = {
  every: (periodSeconds, wake) => {
    const id = setInterval(wake, periodSeconds * 1000);
    return () => clearInterval(id);
  },
};

/**
 * The one way from screens to sound: counts in, changes what runs, stops, and says what is being heard. It holds the audio
 * objects and tells the store each beat as it is heard.
 */
export class Playback {
  private output: WebAudioOutput | null = null;
  private player: Player | null = null;
  private run: Run | null = null;
  private frame = 0;
  private lastBeat = '';
  private voice: Promise<void> = Promise.resolve();

  /** `words` are the spoken counts on their way, null where they could not be fetched. */
  constructor(
    private readonly store: AppStore,
    private readonly words: Promise<Words | null> = Promise.resolve(null),
  ) {}

  /** Counts off the performed bar and runs on from there, as runs are wanted. */
  async countIn(proof: Proof, performed: number, own: OwnRun | null = null): Promise<void> {
    this.run = null;
    const plan = runFrom(proof, performed, own?.settings ?? this.settings);
    this.lastBeat = '';
    const run: Run = { proof, performed, plan, settings: own?.settings ?? null };
    this.run = run;
    this.store.dispatch(starting({ performed }));
    try {
      const player = this.openPlayer();
      await this.voice;
      if (own?.call && this.output?.hasVoice) run.plan = calledRun(plan, own.call, CALL_SECONDS);
      if (this.run !== run) return;
      await player.start(run.plan, () => this.stop());
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

  /** How runs are wanted from now on; a run that sounds follows at its next beat or bar. */
  want(changes: Partial<RunSettings>): void {
    this.store.dispatch(settingsChanged(changes));
    this.changeAtNext(this.store.getState().transport.takesEffect, (run, boundary) =>
      changedRun(run.proof, run.plan, this.settings, boundary),
    );
  }

  /** How the drill that sounds is wanted from its next beat on; nothing happens where none does. */
  wantInDrill(settings: RunSettings): void {
    if (!this.run?.settings) return;
    this.run.settings = settings;
    this.changeAtNext('beat', (run, boundary) => changedRun(run.proof, run.plan, settings, boundary));
  }

  /** Goes on: out of a hold after one beat, or out of an open repeat with this pass. */
  cue(): void {
    const now = this.runSecondsMaybe();
    if (!this.run || now === null) return;
    const cueAt = now + CHANGE_LEAD_SECONDS;
    const cued = cuedRun(this.run.proof, this.run.plan, this.settings, cueAt);
    if (cued) this.take(cued, cueAt);
    else this.changeAtNext('bar', (run, boundary) => goneOnRun(run.proof, run.plan, this.settings, boundary));
  }

  /** Runs on to the end of the bar and stops there. */
  stopAtBarEnd(): void {
    this.changeAtNext('bar', (run, boundary) => endedRun(run.plan, boundary));
  }

  get isRunning(): boolean {
    return this.run !== null;
  }

  /** Whether what sounds is this very proof, not another piece or an exercise. */
  plays(proof: Proof): boolean {
    return this.run?.proof === proof;
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
    const runSeconds = this.runSecondsMaybe();
    if (!this.run || runSeconds === null) return null;
    const { proof, plan } = this.run;
    return runMomentMaybe(proof.piece, proof.compiled, plan, runSeconds);
  }

  /** Seconds of the run that are heard now, or null while nothing runs. */
  runSecondsMaybe(): number | null {
    return this.run ? (this.player?.runSecondsMaybe() ?? null) : null;
  }

  /** Sets the level, from 0 to 1, gliding there; a fresh window starts quiet. */
  setLevel(level: number): void {
    this.store.dispatch(levelSet(Math.min(Math.max(level, 0), 1)));
    this.sendLevel();
  }

  /** Sets how loud each group of sounds is against the others, and keeps it. */
  setGroupLevels(levels: GroupLevels): void {
    storeGroupLevels(levels);
    this.sendGroupLevels();
  }

  toggleMute(): void {
    this.store.dispatch(muteToggled());
    this.sendLevel();
  }

  get level(): number {
    return this.store.getState().transport.level;
  }

  private get settings(): RunSettings {
    return this.run?.settings ?? this.store.getState().transport.settings;
  }

  private sendLevel(): void {
    this.output?.setLevel(this.store.getState().transport.isMuted ? 0 : this.level);
  }

  private sendGroupLevels(): void {
    const levels = storedGroupLevels();
    for (const group of SOUND_GROUPS) this.output?.setGroupLevel(group, levels[group]);
  }

  private changeAtNext(
    every: 'beat' | 'bar',
    change: (run: Run, boundary: NonNullable<ReturnType<typeof nextBoundaryMaybe>>) => RunPlan | null,
  ): void {
    const now = this.runSecondsMaybe();
    if (!this.run || now === null) return;
    const boundary = nextBoundaryMaybe(this.run.proof, this.run.plan, now + CHANGE_LEAD_SECONDS, every);
    const plan = boundary && change(this.run, boundary);
    if (plan) this.take(plan, boundary.runSeconds);
  }

  private take(plan: RunPlan, fromRunSeconds: number): void {
    if (!this.run) return;
    this.run.plan = plan;
    this.player?.change(plan, fromRunSeconds);
  }

  /** The spoken counts; where they do not come in time clicks stand for them. */
  private async giveVoice(output: WebAudioOutput): Promise<void> {
    const words = await Promise.race([this.words, later(VOICE_WAIT_MS)]);
    if (words) await output.setWords(words.file, words.index).catch(() => undefined);
  }

  private openPlayer(): Player {
    if (this.player) return this.player;
    this.output = new WebAudioOutput(new AudioContext({ latencyHint: 'interactive' }));
    this.voice = this.giveVoice(this.output);
    this.sendLevel();
    this.sendGroupLevels();
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

function later(milliseconds: number): Promise<null> {
  return new Promise((resolve) => setTimeout(() => resolve(null), milliseconds));
}

function beatKey(moment: RunMoment): string {
  return moment.phase === 'countOff'
    ? `count ${moment.beatIndex}`
    : `bar ${moment.performed} ${moment.beatIndex} ${moment.waits ?? ''}`;
}
