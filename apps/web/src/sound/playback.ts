import {
  commandOf,
  readyRun,
  runAfter,
  runCallMaybe,
  runMomentMaybe,
  runOf,
  type Proof,
  type RoomRun,
  type RunCommand,
  type RunMoment,
  type RunPlan,
  type RunSaying,
  type RunSettings,
  type RunSounds,
} from '@anchorbeat/core';
import type { AppStore } from '../store/store.ts';
import {
  barBeat,
  countOffBeat,
  runChanged,
  runEnded,
  runStarted,
  tapped,
  settingsChanged,
  type RunInfo,
} from '../store/transportSlice.ts';
import { fallInMaybe } from '../room/followedRun.ts';
import { saveOpenPiece } from '../store/autosave.ts';
import { BeatFollower } from './beatFollower.ts';
import type { Words } from './fetchWords.ts';
import { Level } from './level.ts';
import { Loudspeaker } from './loudspeaker.ts';
import type { PlaybackPorts } from './ports.ts';
import {
  alongOf,
  CHANGE_LEAD_SECONDS,
  endOf,
  heardOf,
  infoOf,
  isEverybodys,
  isRunOf,
  NOTHING_HEARD,
  planOf,
  RoomTrouble,
  sayInTime,
  settingsNamed,
  soundingOf,
  takeOfMaybe,
  titleOf,
  wantedOf,
  type RunRoom,
  type PlayedTake,
  type RunWish,
  type Sounding,
  type TellTrouble,
} from './sounding.ts';

/**
 * The one way from screens to sound. What is said to the run becomes commands of its session, reduced by the core to a plan;
 * this hands the plan to the player and tells the store what begins, what is heard, beat by beat, and what has ended.
 */
export class Playback {
  /** What is sounded through. */
  readonly loudspeaker: Loudspeaker;
  readonly level: Level;
  private sounding: Sounding | null = null;
  private readonly beats: BeatFollower;
  /** Told what was played along with a run, when it has ended. */
  onTake: (take: PlayedTake) => void = () => undefined;
  /** Told when bars ran that somebody was going to play along with, and nobody did. */
  onNobodyPlayed: () => void = () => undefined;

  /** `words` gives the spoken counts, null where they cannot be fetched; it is asked at the first run. */
  constructor(
    private readonly store: AppStore,
    private readonly ports: PlaybackPorts,
    words: () => Promise<Words | null> = () => Promise.resolve(null),
    private readonly room: RunRoom | null = null,
    private readonly tellTrouble: TellTrouble = () => undefined,
  ) {
    this.level = new Level(store, () => this.loudspeaker.sendLevel());
    this.loudspeaker = new Loudspeaker(ports, words, () => this.level.heard);
    this.beats = new BeatFollower(
      ports.everyFrame,
      () => this.momentMaybe(),
      (moment) => store.dispatch(moment.phase === 'countOff' ? countOffBeat(moment) : barBeat(moment)),
    );
    room?.subscribe(() => this.roomChanged());
  }

  /** Counts off the performed bar and runs on from there; what sounds now ends. */
  async countIn(proof: Proof, performed: number, { subject, settings, call = null }: RunWish): Promise<void> {
    this.stop();
    const asked = this.ports.askMaybe();
    if (asked !== null && !(await this.mayAfter(asked))) return;
    const { transport, piece } = this.store.getState();
    const wanted = settings ?? transport.settings;
    const start: RunCommand = { kind: 'start', performed, call: null };
    const state = runAfter(proof, readyRun(wanted), start);
    const info = infoOf(this.ports, piece.open, subject, wanted);
    const sounding = soundingOf({ info, proof, performed, state, ...alongOf(info, transport) });
    this.sounding = sounding;
    this.store.dispatch(runStarted({ run: info, performed }));
    try {
      const player = this.loudspeaker.open();
      // The clock of the sound is read from now on, so that it is known well when the first tap comes.
      if (sounding.onsets) this.loudspeaker.output?.dueSeconds(0);
      await this.loudspeaker.voice;
      if (isEverybodys(subject)) await this.room?.untilEntered();
      if (this.sounding !== sounding) return;
      if (this.room?.isOpen && isEverybodys(subject)) {
        await this.startInRoom(sounding, this.room, call);
        return;
      }
      if (call !== null && this.loudspeaker.output?.hasVoice) {
        const called: RunCommand = { ...start, call: runCallMaybe(call) };
        sounding.state = runAfter(proof, readyRun(wanted), called);
      }
      await player.start(heardOf(sounding), {
        onEnd: () => this.end(planOf(sounding).lengthSeconds),
      });
    } catch (error) {
      this.leave();
      if (error instanceof RoomTrouble) throw error;
      throw new Error('This browser gives no sound: check its sound permission for this page', {
        cause: error,
      });
    }
    if (this.sounding === sounding) this.beats.begin();
  }

  /** Sounds what belongs to no place of the piece, such as two tempi that meet; it resolves when that has ended. */
  async audition(sounds: RunSounds): Promise<void> {
    this.stop();
    const asked = this.ports.askMaybe();
    if (asked !== null && !(await this.mayAfter(asked))) return;
    const { transport, piece } = this.store.getState();
    const run = infoOf(this.ports, piece.open, { kind: 'audition' }, transport.settings);
    this.store.dispatch(runStarted({ run, performed: transport.performed }));
    await new Promise<void>((resolve, reject) => {
      const onEnd = () => {
        this.stop();
        resolve();
      };
      this.loudspeaker.open().start(sounds, { onEnd }).catch(reject);
    });
  }

  /** Waits for what was asked before the first sound; whatever began meanwhile ends. */
  private async mayAfter(asked: Promise<boolean>): Promise<boolean> {
    const mayBegin = await asked;
    if (mayBegin) this.stop();
    return mayBegin;
  }

  /** Silences at once, in a room everywhere; the run that sounded has ended. Nothing happens where none did. */
  stop(): void {
    const { sounding, room } = this;
    if (sounding?.room && room?.run?.id === sounding.room.id)
      void this.sayInRoom(room, sounding.room, { kind: 'stop' });
    this.leave();
  }

  /** Silences this page; a run that is everybody's goes on without it. */
  leave(): void {
    this.end(this.runSecondsMaybe() ?? 0);
  }

  /** Takes a run of the room in hand that goes on without this page: after a reload, or on coming back. */
  join(proof: Proof): void {
    const { room } = this;
    const run = room?.isOpen && room.knowsClock ? room.run : null;
    const { open } = this.store.getState().piece;
    if (!room || !run || this.sounding || !isRunOf(run, open, proof)) return;
    const state = runOf(proof, run.session);
    const [start] = run.session.commands;
    if (!state.plan || start?.kind !== 'start') return;
    if ((room.serverNowMs() - run.startServerMs) / 1000 > state.plan.lengthSeconds) return;
    const info: RunInfo = {
      ...infoOf(this.ports, open, { kind: 'piece' }, state.settings),
      id: run.id,
      isJoined: true,
      startedAtMs: this.ports.nowMs() - Math.max(0, room.serverNowMs() - run.startServerMs),
    };
    const { performed } = start;
    const sounding = soundingOf({ info, proof, performed, state, room: run });
    this.sounding = sounding;
    this.store.dispatch(runStarted({ run: info, performed }));
    void this.soundRoomRun(sounding, run, room);
    this.beats.begin();
  }

  private async startInRoom(sounding: Sounding, room: RunRoom, call: string | null): Promise<void> {
    const { info, proof, performed } = sounding;
    try {
      // Every device holds the revision that is run: what is not saved yet is saved first.
      await saveOpenPiece(() => this.store.getState(), this.store.dispatch);
      await room.untilClockKnown();
      const { open } = this.store.getState().piece;
      // Who has changed their mind meanwhile starts nothing anywhere.
      if (!open || this.sounding !== sounding) return;
      // All devices plan it from what is saved; a plan from anything else would be another one.
      if (open.present !== proof.piece) throw new Error('The piece has changed just now: count in once more');
      const run = await room.start({
        runId: info.id,
        pieceId: open.id,
        revision: open.revision,
        title: titleOf(info.subject, proof, performed),
        settings: info.settings,
        performed,
        call,
      });
      if (this.sounding !== sounding) {
        void this.sayInRoom(room, run, { kind: 'stop' });
        return;
      }
      sounding.room = run;
      sounding.state = runOf(proof, run.session);
      await this.soundRoomRun(sounding, run, room);
      if (this.sounding === sounding) this.beats.begin();
    } catch (error) {
      throw new RoomTrouble((error as Error).message);
    }
  }

  /** Sounds a run of the room by the room's clock; one that goes on already is joined on a downbeat. */
  private async soundRoomRun(sounding: Sounding, run: RoomRun, room: RunRoom): Promise<void> {
    const player = this.loudspeaker.open();
    const { output } = this.loudspeaker;
    if (!output) return;
    await this.loudspeaker.voice;
    await player.start(heardOf(sounding), {
      clock: {
        dueSeconds: (runSeconds) => output.dueSeconds(room.pageMsAt(run.startServerMs + runSeconds * 1000)),
        onAdrift: () => {
          if (this.sounding === sounding) void this.soundRoomRun(sounding, run, room);
        },
      },
      fallIn: (runSeconds) => fallInMaybe(sounding.proof, planOf(sounding), runSeconds),
      onEnd: () => this.end(planOf(sounding).lengthSeconds),
    });
  }

  /** What was said to the run by whoever leads the room, this page among them. */
  private roomChanged(): void {
    const { sounding, room } = this;
    if (!sounding?.room || !room?.run) return;
    const { run } = room;
    if (run.id !== sounding.room.id) {
      this.leave();
      return;
    }
    const added = run.session.commands.slice(sounding.room.session.commands.length);
    sounding.room = run;
    for (const command of added) this.obey(sounding, command);
    if (added.length > 0) this.store.dispatch(runChanged(wantedOf(sounding)));
    if (added.some(({ kind }) => kind === 'stop')) this.leave();
  }

  /** Resolves once it is answered, also where it is refused. */
  private sayInRoom(room: RunRoom, run: RoomRun, saying: RunSaying): Promise<void> {
    return room
      .sayTo(run.id, run.session.commands.length, saying)
      .catch((error: unknown) => this.tellTrouble((error as Error).message));
  }

  /** A run that came to its own end is over in the player already: how much was heard of it is told, not asked. */
  private end(runSeconds: number): void {
    this.beats.end();
    const { sounding } = this;
    this.loudspeaker.player?.stop();
    this.sounding = null;
    if (this.store.getState().transport.run === null) return;
    const ended = sounding ? endOf(sounding, runSeconds) : NOTHING_HEARD;
    this.store.dispatch(runEnded(ended));
    const take = sounding && takeOfMaybe(sounding, runSeconds);
    if (take) this.onTake(take);
    else if (sounding?.onsets && ended.wholeBars > 0) this.onNobodyPlayed();
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
    const last = this.sounding?.state.plan?.stretches.at(-1);
    const waits =
      last?.kind === 'waiting' && last.runSeconds <= (this.runSecondsMaybe() ?? 0) + CHANGE_LEAD_SECONDS;
    void this.say({ kind: waits ? 'cue' : 'goOn' });
  }

  /** Runs on to the end of the bar and stops there. */
  stopAtBarEnd(): void {
    void this.say({ kind: 'stopAtBarEnd' });
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
    const { sounding, room } = this;
    if (!sounding) return null;
    if (sounding.room && room) return (room.serverNowMs() - sounding.room.startServerMs) / 1000;
    return this.loudspeaker.player?.runSecondsMaybe() ?? null;
  }

  /** Somebody played or tapped along, at a moment of the page; nothing happens where nobody was going to. */
  tap(pageMs: number): void {
    const runSeconds = this.runSecondsAtMaybe(pageMs);
    if (runSeconds === null || !this.sounding?.onsets) return;
    this.sounding.onsets.push(runSeconds);
    this.store.dispatch(tapped());
  }

  /** Seconds of the run that were heard at a moment of the page, or null while no bars run. */
  private runSecondsAtMaybe(pageMs: number): number | null {
    const { sounding, room } = this;
    const { player, output } = this.loudspeaker;
    if (!sounding || !player || !output) return null;
    if (sounding.room && room) return (room.serverMsAt(pageMs) - sounding.room.startServerMs) / 1000;
    return player.runSecondsAtMaybe(output.dueSeconds(pageMs));
  }

  /** Until a room has answered, a change is shown as if it held; what was refused is no longer wanted. */
  private change(settings: Partial<RunSettings>, every: 'beat' | 'bar'): void {
    const { sounding } = this;
    const answered = this.say({ kind: 'change', settings, every });
    if (!sounding) return;
    sounding.unanswered.add(settings);
    this.store.dispatch(runChanged(wantedOf(sounding)));
    void answered.then(() => {
      sounding.unanswered.delete(settings);
      if (this.sounding !== sounding) return;
      const wanted = wantedOf(sounding);
      this.store.dispatch(runChanged(wanted));
      if (sounding.room && sounding.info.subject.kind === 'piece')
        this.store.dispatch(settingsChanged(settingsNamed(wanted, settings)));
    });
  }

  /**
   * Says something to the run that sounds, holding from a moment that can still be planned anew; in a room, everywhere. Resolves
   * once that is answered.
   */
  private async say(saying: RunSaying): Promise<void> {
    const now = this.runSecondsMaybe();
    const { sounding, room } = this;
    if (!sounding || now === null) return;
    if (sounding.room && room) return this.sayInRoom(room, sounding.room, saying);
    // What is heard now left the page a while ago.
    const latency = this.loudspeaker.output?.latencySeconds() ?? 0;
    const from = (lead: number) => (this.runSecondsMaybe() ?? now) + latency + lead;
    sayInTime((lead, how) => this.obey(sounding, commandOf(saying, from(lead)), how));
  }

  /** False, and nothing is changed, where it would be late and must not be. */
  private obey(sounding: Sounding, command: RunCommand, how: { readonly mayBeLate?: boolean } = {}): boolean {
    const { proof, state: before } = sounding;
    const state = runAfter(proof, before, command);
    const { player } = this.loudspeaker;
    const isNew = state.plan !== before.plan;
    if (isNew && player?.change(heardOf({ ...sounding, state }), state.changedFromSeconds, how) === false)
      return false;
    sounding.state = state;
    return true;
  }
}
