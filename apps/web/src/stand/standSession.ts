import { WebAudioOutput } from '@anchorbeat/audio';
import {
  beatsIn,
  hearingOf,
  isLocked,
  maySound,
  proofOf,
  readPiece,
  sayNotesIn,
  type Hearing,
  type Proof,
  type RoomRun,
  type RoomState,
  type StandReport,
  type StandState,
} from '@anchorbeat/core';
import { AudioClock } from '../room/audioClock.ts';
import { FollowedRun } from '../room/followedRun.ts';
import { RoomLink, type RoomLine, type RoomView } from '../room/roomLink.ts';
import { keepStandOffline } from '../kept/offline.ts';
import { pageTimer } from '../sound/pageTimer.ts';
import { fetchWords } from '../sound/fetchWords.ts';
import { keepHandout } from './handout.ts';
import { homeDocumentMaybe, keepHomePiece } from './homePieces.ts';
import type { JoinedStand } from './join.ts';
import { keptOwnSettings } from './ownSettings.ts';
import { TappedTake } from './tappedTake.ts';

/** Whose stand it is. */
type StandOf = Pick<JoinedStand, 'section' | 'ensembleName' | 'noteNames'>;

/** A stand that was joined, in its rehearsal. */
export function standInRoom(stand: JoinedStand): StandSession {
  return new StandSession(stand, new RoomLink({ token: stand.token }), (pieceId, revision) =>
    fetchedPiece(stand.token, pieceId, revision),
  );
}

async function fetchedPiece(token: string, pieceId: string, revision: number): Promise<unknown> {
  const answer = await fetch(`/api/stand/pieces/${pieceId}/revisions/${revision}`, {
    headers: { Authorization: `Bearer ${token}` },
  });
  if (!answer.ok) throw new Error('The piece of this rehearsal could not be had; it is tried again');
  return ((await answer.json()) as { readonly piece: unknown }).piece;
}

/** What a stand shows. */
export interface StandSnapshot {
  readonly view: RoomView;
  readonly proof: Proof | null;
  /** What was last heard of a run: its plan, while it goes on. */
  readonly run: FollowedRun | null;
  readonly state: StandState;
  /** Why the piece could not be had; null where it could. */
  readonly failure: string | null;
}

const LOOK_EVERY_MS = 100;
const REPORT_EVERY_MS = 2000;
const FELT_MS = 30;
/** A piece that could not be had is asked for again after so long. */
const ASK_AGAIN_MS = 2000;
/** Pieces that were worked on lately are at hand. */
const MOST_PIECES = 4;

/** A stand at work: it follows its room, holds the room's piece, sounds what its section hears, and says how it is. */
export class StandSession {
  private readonly context = new AudioContext({ latencyHint: 'interactive' });
  private readonly output = new WebAudioOutput(this.context);
  private readonly audioClock = new AudioClock(this.context, () => keptOwnSettings.get().correctionMs / 1000);
  private readonly listeners = new Set<() => void>();
  private readonly timers: ReadonlyArray<ReturnType<typeof setInterval>>;
  private readonly endings: ReadonlyArray<() => void>;
  private pieces = new Map<string, Proof>();
  /** The piece and revision that is to be held, which may be on its way. */
  private wanted = '';
  /** A run that could not be planned: it is not tried again with every word from the room. */
  private unfit = '';
  private readonly tapped = new TappedTake((taken) => this.link.tell('taken', taken));
  private readonly taken = new Set<string>();
  private isKept = false;
  private lastFelt = -Infinity;
  private reported = '';
  private isClosed = false;
  private snapshot: StandSnapshot;

  /** Made by a press: a browser gives no sound before one. */
  constructor(
    readonly stand: StandOf,
    private readonly link: RoomLine,
    private readonly pieceOf: (pieceId: string, revision: number) => Promise<unknown>,
  ) {
    sayNotesIn(stand.noteNames ?? 'quarter');
    this.snapshot = { view: this.link.get(), proof: null, run: null, state: 'joining', failure: null };
    this.timers = [
      setInterval(() => this.look(), LOOK_EVERY_MS),
      setInterval(() => this.report(true), REPORT_EVERY_MS),
    ];
    this.endings = [
      this.link.subscribe(() => this.roomChanged()),
      keptOwnSettings.subscribe(() => this.sendLevel()),
    ];
    void this.context.resume();
    this.sendLevel();
    void this.giveVoice();
  }

  readonly subscribe = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  readonly get = (): StandSnapshot => this.snapshot;

  /** A press that wakes the sound where the browser had put it to sleep. */
  wake(): void {
    void this.context.resume();
  }

  /** Whether a run goes on that is tapped along with. */
  get isTapping(): boolean {
    const { view, run } = this.snapshot;
    return run !== null && !run.isOver && (view.room?.playsAlong ?? null) !== null;
  }

  /** A tap along with the run, at a time of the page's clock. */
  tap(pageMs: number): void {
    const { run } = this.snapshot;
    if (!run || !this.isTapping) return;
    this.tapped.tap(run.id, run.runSecondsAt(this.link.serverMsAt(pageMs)));
  }

  close(): void {
    this.isClosed = true;
    for (const timer of this.timers) clearInterval(timer);
    for (const end of this.endings) end();
    this.snapshot.run?.close();
    this.audioClock.close();
    this.link.close();
    void this.context.close();
  }

  private roomChanged(): void {
    const view = this.link.get();
    this.show({ view });
    if (view.over !== null) this.snapshot.run?.close();
    else if (view.room) {
      this.follow(view.room);
      this.keepAtHome(view.room);
      void this.takeHome(view.room);
    }
    this.look();
  }

  private keepAtHome({ handouts }: RoomState): void {
    const { section, ensembleName } = this.stand;
    const lines = handouts[section];
    if (lines) keepHandout({ ensembleName, section, lines });
  }

  /** What may be taken home is fetched once for each revision. */
  private async takeHome({ shared }: RoomState): Promise<void> {
    if (shared.length > 0 && !this.isKept) {
      this.isKept = true;
      void keepStandOffline();
    }
    const { section, ensembleName, noteNames = 'quarter' } = this.stand;
    for (const piece of shared) {
      const key = pieceKey(piece);
      if (this.taken.has(key)) continue;
      this.taken.add(key);
      if (homeDocumentMaybe(piece) !== null) continue;
      try {
        keepHomePiece(
          { section, ensembleName, noteNames },
          piece,
          await this.pieceOf(piece.pieceId, piece.revision),
        );
      } catch {
        // It is asked for again with the next word from the room.
        this.taken.delete(key);
      }
    }
  }

  /** Follows the run of the room with the very piece and revision that is run, as soon as that is here. */
  private follow(room: RoomState): void {
    this.holdWanted(room);
    const { run } = this.snapshot;
    // What sounded before is over as soon as another begins, however late its piece comes.
    if (run && room.run && run.id !== room.run.id) run.close();
    const proof = room.run && this.pieces.get(pieceKey(room.run));
    if (!room.run || !proof) return;
    // Who hears nothing follows all the same, at no loudness: let in again it is in the middle of it at once.
    const heard = hearingOf(room, this.stand.section);
    const hearing = heard === 'nothing' ? 'pulse' : heard;
    if (run?.id === room.run.id) {
      run.follow(room.run);
      run.hear(hearing);
    } else if (room.run.id !== this.unfit) this.begin(proof, room.run, hearing);
    this.sendLevel();
  }

  private begin(proof: Proof, run: RoomRun, hearing: Hearing): void {
    try {
      const next = new FollowedRun(proof, run, hearing, {
        output: this.output,
        timer: pageTimer,
        serverNowMs: () => this.link.serverMsAt(performance.now()),
        dueSeconds: (serverMs) => this.audioClock.dueSeconds(this.link.pageMsAt(serverMs)),
        maySound: () => this.context.state === 'running' && maySound(this.link.get().clock),
      });
      this.show({ run: next, failure: null });
    } catch {
      this.unfit = run.id;
      this.show({ failure: 'This run does not fit its piece; the director counts in once more' });
    }
  }

  /** The piece of the run that goes on, else the one that is worked on: it is there before the next run begins. */
  private holdWanted({ run, open }: RoomState): void {
    const isOver = run !== null && this.snapshot.run?.id === run.id && this.snapshot.run.isOver;
    const wanted = isOver ? (open ?? run) : (run ?? open);
    if (wanted) void this.hold(wanted.pieceId, wanted.revision);
  }

  /** Gets a piece, once for each revision. */
  private async hold(pieceId: string, revision: number): Promise<void> {
    const key = pieceKey({ pieceId, revision });
    if (key === this.wanted) return;
    this.wanted = key;
    try {
      const proof = this.pieces.get(key) ?? (await this.fetched(pieceId, revision));
      if (this.wanted !== key || this.isClosed) return;
      this.pieces = new Map([...this.pieces, [key, proof] as const].slice(-MOST_PIECES));
      this.show({ proof, failure: null });
      const { room } = this.link.get();
      if (room) this.follow(room);
    } catch (error) {
      if (this.wanted !== key) return;
      this.show({ failure: (error as Error).message });
      setTimeout(() => this.askAgain(key), ASK_AGAIN_MS);
    }
  }

  private askAgain(key: string): void {
    const { room } = this.link.get();
    if (this.isClosed || this.wanted !== key) return;
    this.wanted = '';
    if (room) this.follow(room);
  }

  private async fetched(pieceId: string, revision: number): Promise<Proof> {
    const reading = readPiece(await this.pieceOf(pieceId, revision));
    if (!reading.ok) throw new Error('The piece of this rehearsal does not read');
    return proofOf(reading.piece);
  }

  /** Looks whether anything has changed by time alone. */
  private look(): void {
    const { room } = this.link.get();
    if (room) this.holdWanted(room);
    this.snapshot.run?.consider();
    if (this.snapshot.view.connection === 'open') this.tapped.tellUnheard(this.snapshot.run);
    this.feel();
    const state = this.stateNow();
    if (state === this.snapshot.state) return;
    this.show({ state });
    this.report(false);
  }

  private stateNow(): StandState {
    const { view, run } = this.snapshot;
    if (view.connection === 'connecting') return 'joining';
    if (view.connection === 'lost') return 'lost';
    if (!view.room) return 'joining';
    if ((view.room.open ?? view.room.run) && !this.pieces.has(this.wanted)) return 'loading';
    if (!maySound(view.clock) && (!run || run.isOver)) return 'locking';
    const moment = run && !run.isOver ? run.momentMaybe() : null;
    if (!moment || !run) return isLocked(view.clock) ? 'ready' : 'locking';
    if (hearingOf(view.room, this.stand.section) === 'nothing') return 'muted by the director';
    if (keptOwnSettings.get().isMuted) return 'muted here';
    if (!run.sounds) return 'silent: poor lock';
    if (moment.phase === 'countOff') return 'counting off';
    return moment.waits ? 'waiting for a cue' : 'playing';
  }

  /** Lets the beat be felt, where the device can; its motor is late like sound is. */
  private feel(): void {
    const { run } = this.snapshot;
    if (!run || !keptOwnSettings.get().isFelt || !('vibrate' in navigator)) return;
    const now = run.runSeconds() + keptOwnSettings.get().correctionMs / 1000;
    const window = { fromSeconds: Math.max(this.lastFelt, now), toSeconds: now + LOOK_EVERY_MS / 1000 };
    const [beat] = window.toSeconds > window.fromSeconds ? beatsIn(run.proof, run.plan, window) : [];
    this.lastFelt = window.toSeconds;
    if (beat) setTimeout(() => navigator.vibrate(FELT_MS), Math.max(0, (beat.runSeconds - now) * 1000));
  }

  private sendLevel(): void {
    const { level, isMuted } = keptOwnSettings.get();
    const { room } = this.link.get();
    const isSilent = isMuted || (room !== null && hearingOf(room, this.stand.section) === 'nothing');
    this.output.setLevel(isSilent ? 0 : level);
  }

  private report(isRegular: boolean): void {
    const { view, state } = this.snapshot;
    const { standardErrorMs, slowRoundTripMs } = view.clock;
    const known = (value: number) => (Number.isFinite(value) ? Math.min(99_999, value) : null);
    const report: StandReport = {
      state,
      withinMs: known(standardErrorMs),
      slowRoundTripMs: known(slowRoundTripMs),
      latencyMs: Math.round(this.output.latencySeconds() * 1000 + keptOwnSettings.get().correctionMs),
      isSeen: document.visibilityState === 'visible',
    };
    const text = JSON.stringify(report);
    if (!isRegular && text === this.reported) return;
    this.reported = text;
    void this.link.tell('report', report);
  }

  /** The spoken counts come after everything else: until they are there clicks stand for them. */
  private async giveVoice(): Promise<void> {
    const words = await fetchWords();
    if (words && !this.isClosed)
      await this.output.setWords(words.file, words.index, words.own).catch(() => undefined);
  }

  private show(changes: Partial<StandSnapshot>): void {
    this.snapshot = { ...this.snapshot, ...changes };
    for (const tell of [...this.listeners]) tell();
  }
}

function pieceKey({ pieceId, revision }: { readonly pieceId: string; readonly revision: number }): string {
  return `${pieceId} ${revision}`;
}
