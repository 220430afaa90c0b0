import { Player, type SoundOutput, type WakeTimer } from '@anchorbeat/audio';
import {
  heardSession,
  nextBoundaryMaybe,
  runAfter,
  runMomentMaybe,
  runOf,
  soundsOf,
  type PerformedSpan,
  type Hearing,
  type Proof,
  type RoomRun,
  type RunMoment,
  type RunPlan,
  type RunState,
} from '@anchorbeat/core';

/** What following a run takes of the device. */
export interface FollowPorts {
  readonly output: SoundOutput;
  readonly timer: WakeTimer;
  /** The server's time now, in milliseconds. */
  readonly serverNowMs: () => number;
  /** When a sound must begin on the output's clock to be heard at a moment of the server's. */
  readonly dueSeconds: (serverMs: number) => number;
  /** Whether the clock is known well enough to sound. */
  readonly maySound: () => boolean;
}

/** Changes that hold for this device only take effect this far ahead. */
const OWN_LEAD_SECONDS = 0.08;
/** Who falls in later does so on a downbeat that is at least so far off. */
const FALL_IN_SECONDS = 0.15;
const JUST_BEFORE_SECONDS = 1e-6;

/**
 * One run of a room as one device plays it: the same list of commands makes the same plan as everywhere, and the device
 * sounds of it what its section hears, when the server's clock says so. It goes on by itself while the network is away.
 */
export class FollowedRun {
  private readonly player: Player;
  private state: RunState;
  private isSounding = false;
  private isClosed = false;

  constructor(
    readonly proof: Proof,
    private run: RoomRun,
    private hearing: Hearing,
    private readonly ports: FollowPorts,
  ) {
    this.player = new Player(ports.output, ports.timer);
    this.state = this.planned();
    this.consider();
  }

  get id(): string {
    return this.run.id;
  }

  get plan(): RunPlan {
    if (!this.state.plan) throw new Error('a run of a room begins with its start');
    return this.state.plan;
  }

  /** Seconds of the run that are heard now; below zero before its first click. */
  runSeconds(): number {
    return this.runSecondsAt(this.ports.serverNowMs());
  }

  runSecondsAt(serverMs: number): number {
    return (serverMs - this.run.startServerMs) / 1000;
  }

  momentMaybe(): RunMoment | null {
    return runMomentMaybe(this.proof, this.plan, this.runSeconds());
  }

  /** By its own end, or since another one has begun. */
  get isOver(): boolean {
    return this.isClosed || this.runSeconds() > this.plan.lengthSeconds;
  }

  /** The performed bar it was counted into. */
  get entryPerformed(): number {
    const [start] = this.run.session.commands;
    return start?.kind === 'start' ? start.performed : 0;
  }

  /** Whether it sounds, or would if there were anything to sound. */
  get sounds(): boolean {
    return this.isSounding;
  }

  /** The run as the room has it now: further commands take effect at their moments. */
  follow(run: RoomRun): void {
    const known = this.run.session.commands.length;
    this.run = run;
    for (const command of heardSession(run.session, this.hearing).commands.slice(known)) {
      const before = this.state;
      this.state = runAfter(this.proof, before, command);
      if (this.state.plan !== before.plan && this.isSounding)
        this.player.change(soundsOf(this.proof, this.plan), this.state.changedFromSeconds);
    }
  }

  /** What this device hears from the next moment on. */
  hear(hearing: Hearing): void {
    if (hearing === this.hearing) return;
    this.hearing = hearing;
    this.state = this.planned();
    if (this.isSounding)
      this.player.change(soundsOf(this.proof, this.plan), this.runSeconds() + OWN_LEAD_SECONDS);
  }

  /** Looks whether it may sound now: begins with the run, or falls in on a downbeat. Called again and again. */
  consider(): void {
    if (this.isSounding || this.isOver || !this.ports.maySound()) return;
    if (fallInMaybe(this.proof, this.plan, this.runSeconds()) === null) return;
    this.isSounding = true;
    void this.player.start(soundsOf(this.proof, this.plan), {
      clock: {
        dueSeconds: (runSeconds) => this.ports.dueSeconds(this.run.startServerMs + runSeconds * 1000),
        onAdrift: () => (this.isSounding = false),
      },
      fallIn: (runSeconds) => fallInMaybe(this.proof, this.plan, runSeconds),
      onEnd: () => (this.isSounding = false),
    });
  }

  /** What it leaves out today. */
  get leftOut(): readonly PerformedSpan[] {
    return this.state.settings.leftOut;
  }

  close(): void {
    this.isClosed = true;
    this.isSounding = false;
    this.player.stop();
  }

  private planned(): RunState {
    return runOf(this.proof, heardSession(this.run.session, this.hearing));
  }
}

/**
 * Where in a run one falls in who can sound from a moment of it on, in seconds of the run: with the run itself before it has
 * begun, else just before its next bar; null where none begins any more.
 */
export function fallInMaybe(proof: Proof, plan: RunPlan, runSeconds: number): number | null {
  if (runSeconds <= 0) return -Infinity;
  const bar = nextBoundaryMaybe(proof, plan, runSeconds + FALL_IN_SECONDS, 'bar');
  return bar && bar.runSeconds - JUST_BEFORE_SECONDS;
}
