import { Player, SOUND_GROUPS } from '@anchorbeat/audio';
import {
  barsPlace,
  heardBars,
  printedBpmMaybe,
  readyRun,
  runAfter,
  runMomentMaybe,
  soundsOf,
  type Proof,
  type RunCommand,
  type RunMoment,
  type RunPlan,
  type RunSettings,
  type RunSounds,
  type RunState,
} from '@anchorbeat/core';
import type { AppStore } from '../store/store.ts';
import {
  barBeat,
  countOffBeat,
  levelSet,
  muteToggled,
  runChanged,
  runEnded,
  runStarted,
  settingsChanged,
  type RunEnd,
  type RunInfo,
  type RunSubject,
} from '../store/transportSlice.ts';
import type { Words } from './fetchWords.ts';
import { keptGroupLevels, type GroupLevels } from './groupLevels.ts';
import type { DeviceOutput, PlaybackPorts } from './ports.ts';

/** What is to be run, how it is wanted where not as runs of the piece are, and what is said before its count-off. */
export interface RunWish {
  readonly subject: RunSubject;
  readonly settings?: RunSettings;
  readonly call?: string | null;
}

interface Sounding {
  readonly info: RunInfo;
  readonly proof: Proof;
  readonly performed: number;
  state: RunState;
}

const CALL_SECONDS = 1.5;

/** A change takes effect at the first beat or bar that is farther off than this: nearer ones may have begun to sound. */
const CHANGE_LEAD_SECONDS = 0.06;

/** The first run of a window waits no longer than this for its voice. */
const VOICE_WAIT_MS = 400;

/**
 * The one way from screens to sound. What is said to the run becomes commands of its session, reduced by the core to a plan;
 * this hands the plan to the player and tells the store what begins, what is heard, beat by beat, and what has ended.
 */
export class Playback {
  private output: DeviceOutput | null = null;
  private player: Player | null = null;
  private sounding: Sounding | null = null;
  private endFollowing: () => void = () => undefined;
  private lastBeat = '';
  private voice: Promise<void> = Promise.resolve();

  /** `words` gives the spoken counts, null where they cannot be fetched; it is asked at the first run. */
  constructor(
    private readonly store: AppStore,
    private readonly ports: PlaybackPorts,
    private readonly words: () => Promise<Words | null> = () => Promise.resolve(null),
  ) {}

  /** Counts off the performed bar and runs on from there; what sounds now ends. */
  async countIn(proof: Proof, performed: number, { subject, settings, call }: RunWish): Promise<void> {
    this.stop();
    const asked = this.ports.askMaybe();
    if (asked !== null && !(await this.mayAfter(asked))) return;
    const wanted = settings ?? this.store.getState().transport.settings;
    const start: RunCommand = { kind: 'start', performed, call: null };
    const state = runAfter(proof, readyRun(wanted), start);
    const info = this.infoOf(subject, wanted);
    const sounding: Sounding = { info, proof, performed, state };
    this.sounding = sounding;
    this.lastBeat = '';
    this.store.dispatch(runStarted({ run: info, performed }));
    try {
      const player = this.openPlayer();
      await this.voice;
      if (this.sounding !== sounding) return;
      if (call && this.output?.hasVoice) {
        const called: RunCommand = { ...start, call: { word: call, lengthSeconds: CALL_SECONDS } };
        sounding.state = runAfter(proof, readyRun(wanted), called);
      }
      await player.start(soundsOf(proof, planOf(sounding)), {
        onEnd: () => this.end(planOf(sounding).lengthSeconds),
      });
    } catch (error) {
      this.stop();
      throw new Error('This browser gives no sound: check its sound permission for this page', {
        cause: error,
      });
    }
    if (this.sounding === sounding) this.follow();
  }

  /** Sounds what belongs to no place of the piece, such as two tempi that meet; it resolves when that has ended. */
  async audition(sounds: RunSounds): Promise<void> {
    this.stop();
    const asked = this.ports.askMaybe();
    if (asked !== null && !(await this.mayAfter(asked))) return;
    const run = this.infoOf({ kind: 'audition' }, this.store.getState().transport.settings);
    this.store.dispatch(runStarted({ run, performed: this.store.getState().transport.performed }));
    await new Promise<void>((resolve, reject) => {
      const onEnd = () => {
        this.stop();
        resolve();
      };
      this.openPlayer().start(sounds, { onEnd }).catch(reject);
    });
  }

  /** Waits for what was asked before the first sound; whatever began meanwhile ends. */
  private async mayAfter(asked: Promise<boolean>): Promise<boolean> {
    const mayBegin = await asked;
    if (mayBegin) this.stop();
    return mayBegin;
  }

  /** Silences at once; the run that sounded has ended. Nothing happens where none did. */
  stop(): void {
    this.end(this.player?.runSecondsMaybe() ?? 0);
  }

  /** A run that came to its own end is over in the player already: how much was heard of it is told, not asked. */
  private end(runSeconds: number): void {
    this.endFollowing();
    const { sounding } = this;
    this.player?.stop();
    this.sounding = null;
    if (this.store.getState().transport.run === null) return;
    this.store.dispatch(runEnded(sounding ? endOf(sounding, runSeconds) : NOTHING_HEARD));
  }

  /** How runs of the piece are wanted from now on; one that sounds follows at its next beat or bar. */
  want(changes: Partial<RunSettings>): void {
    this.store.dispatch(settingsChanged(changes));
    this.change(changes, this.store.getState().transport.takesEffect);
  }

  /** How the drill that sounds is wanted from its next beat on; nothing happens where none does. */
  wantInDrill(settings: RunSettings): void {
    if (this.sounding?.info.subject.kind === 'drill') this.change(settings, 'beat');
  }

  /** Goes on: out of a hold after one beat, or out of an open repeat with this pass. */
  cue(): void {
    this.say((afterSeconds, { plan }) =>
      plan?.stretches.at(-1)?.kind === 'waiting' && (plan.stretches.at(-1)?.runSeconds ?? 0) <= afterSeconds
        ? { kind: 'cue', atSeconds: afterSeconds }
        : { kind: 'goOn', afterSeconds },
    );
  }

  /** Runs on to the end of the bar and stops there. */
  stopAtBarEnd(): void {
    this.say((afterSeconds) => ({ kind: 'stopAtBarEnd', afterSeconds }));
  }

  /** Whether anything sounds or is about to. */
  get isRunning(): boolean {
    return this.store.getState().transport.run !== null;
  }

  /** Whether what sounds is this very proof, not another piece or an exercise. */
  plays(proof: Proof): boolean {
    return this.sounding?.proof === proof;
  }

  get plan(): RunPlan | null {
    return this.sounding?.state.plan ?? null;
  }

  /** The performed bar the run was counted into. */
  get entryPerformed(): number {
    return this.sounding?.performed ?? 0;
  }

  /** What is heard at this moment, or null while no bars run. */
  momentMaybe(): RunMoment | null {
    const runSeconds = this.runSecondsMaybe();
    if (!this.sounding || runSeconds === null) return null;
    return runMomentMaybe(this.sounding.proof, planOf(this.sounding), runSeconds);
  }

  /** Seconds of the run that are heard now, or null while no bars run. */
  runSecondsMaybe(): number | null {
    return this.sounding ? (this.player?.runSecondsMaybe() ?? null) : null;
  }

  /** Sets the level, from 0 to 1, gliding there; a fresh window starts quiet. */
  setLevel(level: number): void {
    this.store.dispatch(levelSet(Math.min(Math.max(level, 0), 1)));
    this.sendLevel();
  }

  /** Sets how loud each group of sounds is against the others, and keeps it. */
  setGroupLevels(levels: GroupLevels): void {
    keptGroupLevels.set(levels);
    this.sendGroupLevels();
  }

  toggleMute(): void {
    this.store.dispatch(muteToggled());
    this.sendLevel();
  }

  get level(): number {
    return this.store.getState().transport.level;
  }

  private infoOf(subject: RunSubject, settings: RunSettings): RunInfo {
    const pieceId = this.store.getState().piece.open?.id ?? null;
    const { newId, nowMs } = this.ports;
    return { id: newId(), pieceId, subject, settings, startedAtMs: nowMs(), mark: null };
  }

  private change(settings: Partial<RunSettings>, every: 'beat' | 'bar'): void {
    this.say((afterSeconds) => ({ kind: 'change', settings, at: { every, afterSeconds } }));
    if (this.sounding) this.store.dispatch(runChanged(this.sounding.state.settings));
  }

  /** One more command for the run that sounds, holding from a moment that can still be planned anew. */
  private say(command: (afterSeconds: number, state: RunState) => RunCommand): void {
    const now = this.runSecondsMaybe();
    const { sounding } = this;
    if (!sounding || now === null) return;
    const before = sounding.state;
    const { proof } = sounding;
    sounding.state = runAfter(proof, before, command(now + CHANGE_LEAD_SECONDS, before));
    if (sounding.state.plan === before.plan) return;
    this.player?.change(soundsOf(proof, planOf(sounding)), sounding.state.changedFromSeconds);
  }

  private sendLevel(): void {
    this.output?.setLevel(this.store.getState().transport.isMuted ? 0 : this.level);
  }

  private sendGroupLevels(): void {
    const levels = keptGroupLevels.get();
    for (const group of SOUND_GROUPS) this.output?.setGroupLevel(group, levels[group]);
  }

  /** The spoken counts; where they do not come in time clicks stand for them. */
  private async giveVoice(output: DeviceOutput): Promise<void> {
    const words = await Promise.race([this.words(), this.ports.wait(VOICE_WAIT_MS).then(() => null)]);
    if (words) await output.setWords(words.file, words.index).catch(() => undefined);
  }

  private openPlayer(): Player {
    if (this.player) return this.player;
    this.output = this.ports.openOutput();
    this.voice = this.giveVoice(this.output);
    this.sendLevel();
    this.sendGroupLevels();
    this.player = new Player(this.output, this.ports.timer);
    return this.player;
  }

  private follow(): void {
    this.endFollowing();
    this.endFollowing = this.ports.everyFrame(() => {
      const moment = this.momentMaybe();
      if (!moment) return;
      const beat = beatKey(moment);
      if (beat === this.lastBeat) return;
      this.lastBeat = beat;
      this.store.dispatch(moment.phase === 'countOff' ? countOffBeat(moment) : barBeat(moment));
    });
  }
}

const NOTHING_HEARD: RunEnd = { wholeBars: 0, place: null, bpm: null, lengthSeconds: 0 };

function planOf({ state }: Sounding): RunPlan {
  if (!state.plan) throw new Error('the run that sounds has not been started');
  return state.plan;
}

/** What was heard of a run up to a moment of it. */
function endOf({ proof, state }: Sounding, runSeconds: number): RunEnd {
  if (!state.plan) return NOTHING_HEARD;
  const { wholeBars, barIndex, bars } = heardBars(proof, state.plan, runSeconds);
  const place = barIndex === null ? null : barsPlace(proof.compiled, barIndex, bars);
  const printed = place && printedBpmMaybe(proof, place);
  const bpm = printed === null ? null : Math.round(printed * state.settings.percent) / 100;
  return {
    wholeBars,
    place,
    bpm,
    lengthSeconds: Math.max(0, Math.min(runSeconds, state.plan.lengthSeconds)),
  };
}

function beatKey(moment: RunMoment): string {
  return moment.phase === 'countOff'
    ? `count ${moment.beatIndex}`
    : `bar ${moment.performed} ${moment.beatIndex} ${moment.waits ?? ''}`;
}
