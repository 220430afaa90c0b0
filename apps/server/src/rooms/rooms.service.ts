import { randomInt, randomUUID, timingSafeEqual } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import {
  CODE_LENGTH,
  CODE_LETTERS,
  EMPTY_ROOM,
  howMany,
  isCode,
  leadMsFor,
  roomAfter,
  typedCode,
  type RoomAct,
  type Role,
  type RoomState,
} from '@anchorbeat/core';
import type { JoinRequest, JoinResponse, RoomResponse, UpdateStandRequest } from '@anchorbeat/contract';
import { Mutex } from 'async-mutex';
import { IsNull, Repository } from 'typeorm';
import { isOpen } from '../accounts/access.service.ts';
import { hashOf, newToken } from '../accounts/tokens.ts';
import { Tries } from '../accounts/tries.ts';
import { SerialWriter } from '../database/connection.ts';
import { EnsembleEntity, PieceEntity, RevisionEntity } from '../database/entities.ts';
import { RoomEntity, StandEntity } from '../database/peopleEntities.ts';
import { forbidden, notFound, ProblemException, tooMany } from '../problems/problemException.ts';
import { PROBLEM_TYPES } from '@anchorbeat/contract';
import type { SavedRevision } from '../pieces/savedRevisions.ts';
import { Addresses } from './addresses.ts';
import { Presence } from './presence.ts';
import { serverNowMs } from './serverClock.ts';
import { Siblings } from './siblings.ts';

const LIFE_MS = 12 * 3_600_000;
const WRONG_CODES_A_MINUTE = 5;
const WRONG_CODES_AN_HOUR = 100;
const EVERYWHERE = 'everywhere';
/** More than any hall has: who knows the code must not fill the disk with it. */
const MOST_STANDS = 500;

/** Told when a room changes by what was not said on its socket. */
type Listener = (roomId: string, change: 'ended' | { readonly goneStandId: string }) => void;

/** Rehearsals that stands join: kept in the database, so that they outlive the process, with a copy at hand. */
@Injectable()
export class RoomsService {
  private readonly states = new Map<string, RoomState>();
  private readonly turns = new Map<string, Mutex>();
  /** What was saved later is told later. */
  private readonly renewing = new Mutex();
  private readonly wrongOfAddress = new Tries(WRONG_CODES_A_MINUTE, 60_000);
  private readonly wrongOfAll = new Tries(WRONG_CODES_AN_HOUR, 3_600_000);
  private readonly lateTries = new Tries(1, 60_000);
  private readonly listeners = new Set<Listener>();

  constructor(
    @InjectRepository(RoomEntity) private readonly rooms: Repository<RoomEntity>,
    @InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>,
    @InjectRepository(PieceEntity) private readonly pieces: Repository<PieceEntity>,
    @InjectRepository(RevisionEntity) private readonly revisions: Repository<RevisionEntity>,
    @InjectRepository(StandEntity) private readonly stands: Repository<StandEntity>,
    private readonly writer: SerialWriter,
    private readonly presence: Presence,
    private readonly addresses: Addresses,
    private readonly siblings: Siblings,
  ) {
    siblings.onNews((news) => {
      if (news.kind === 'ended') this.states.delete(news.roomId);
    });
  }

  onChange(listener: Listener): void {
    this.listeners.add(listener);
  }

  async list(ensembleId: string): Promise<RoomResponse[]> {
    const rows = await this.rooms.findBy({ ensembleId, endedAt: IsNull() });
    return rows.filter(isOpen).map((row) => this.response(row));
  }

  /** Where a co-director opens it, co-directors lead: nobody else may be there. */
  async create(ensembleId: string, by: Role): Promise<RoomResponse> {
    const now = new Date();
    const row: RoomEntity = {
      id: randomUUID(),
      ensembleId,
      code: await this.newCode(),
      createdAt: now.toISOString(),
      expiresAt: new Date(now.getTime() + LIFE_MS).toISOString(),
      endedAt: null,
      state: { ...EMPTY_ROOM, coDirectorsLead: by === 'coDirector' },
    };
    await this.writer.run(async (manager) => {
      await manager.query('UPDATE rooms SET ended_at = ? WHERE ended_at IS NULL AND expires_at < ?', [
        row.createdAt,
        row.createdAt,
      ]);
      await manager.insert(RoomEntity, row);
    });
    return this.response(row);
  }

  async end(roomId: string): Promise<void> {
    const endedAt = new Date().toISOString();
    await this.writer.run((manager) => manager.update(RoomEntity, { id: roomId }, { endedAt }));
    this.states.delete(roomId);
    this.siblings.send({ kind: 'ended', roomId });
    this.tell(roomId, 'ended');
  }

  /** A new code; nobody joins by the one before any more, who has joined stays. */
  async changeCode(roomId: string): Promise<RoomResponse> {
    const row = await this.openRoom(roomId);
    const code = await this.newCode();
    await this.writer.run((manager) => manager.update(RoomEntity, { id: roomId }, { code }));
    return this.response({ ...row, code });
  }

  async removeStand(roomId: string, standId: string): Promise<void> {
    const revokedAt = new Date().toISOString();
    await this.writer.run((manager) => manager.update(StandEntity, { id: standId, roomId }, { revokedAt }));
    this.presence.forget(roomId, standId);
    this.tell(roomId, { goneStandId: standId });
  }

  /** @throws ProblemException 404 for a code that opens nothing, 429 for who guesses. */
  async join({ code, section, name = '' }: JoinRequest, address: string): Promise<JoinResponse> {
    this.refuseGuesser(address);
    const row = await this.roomByCodeMaybe(typedCode(code));
    if (!row) {
      this.wrongOfAddress.add(address);
      this.wrongOfAll.add(EVERYWHERE);
      throw noSuchCode();
    }
    const ensemble = await this.ensembles.findOneByOrFail({ id: row.ensembleId });
    const { name: ensembleName, sections, noteNames } = ensemble;
    const opened = { ensembleName, sections, noteNames };
    if (section === undefined) return { ...opened, stand: null };
    const there = await this.stands.countBy({ roomId: row.id, revokedAt: IsNull() });
    if (there >= MOST_STANDS)
      throw forbidden(`This rehearsal has ${MOST_STANDS} stands, and takes no more: ask the director`);
    const token = newToken();
    const stand = {
      id: randomUUID(),
      roomId: row.id,
      tokenHash: hashOf(token),
      section,
      name,
      joinedAt: new Date().toISOString(),
      revokedAt: null,
    };
    await this.writer.run((manager) => manager.insert(StandEntity, stand));
    return { ...opened, stand: { id: stand.id, token, section, name } };
  }

  async updateStand(stand: StandEntity, { section, name }: UpdateStandRequest): Promise<void> {
    await this.writer.run((manager) => manager.update(StandEntity, { id: stand.id }, { section, name }));
    this.presence.rename(stand.roomId, stand.id, section, name);
  }

  /** The document of a revision, where the room has it open, runs it or lets it be taken home. */
  async sharedRevision(roomId: string, pieceId: string, revision: number) {
    const { open, run, shared } = await this.stateOf(roomId);
    const isShared = [open, run, ...shared].some(
      (known) => known?.pieceId === pieceId && known.revision === revision,
    );
    const row = isShared ? await this.revisions.findOneBy({ pieceId, revision }) : null;
    if (!row) throw notFound('piece in this rehearsal');
    return { pieceId, revision, piece: JSON.parse(row.document) as unknown };
  }

  async stateOf(roomId: string): Promise<RoomState> {
    const known = this.states.get(roomId);
    if (known) return known;
    const state = wholeState(await this.openRoom(roomId));
    this.hold(roomId, state);
    return state;
  }

  /** At hand, unless another process may change it. */
  private hold(roomId: string, state: RoomState): void {
    if (!this.siblings.mayBeThere) this.states.set(roomId, state);
  }

  /**
   * The room after an act, kept before it is told to anybody. A stop is told first: it is at once or not at all.
   * @throws ProblemException where it was meant for another state of the room.
   */
  async act(roomId: string, act: RoomAct, tell: (state: RoomState) => void): Promise<RoomState> {
    return this.turnOf(roomId).runExclusive(async () => {
      if (act.kind === 'open' || act.kind === 'start') await this.requireRevision(roomId, act);
      if (act.kind === 'share') for (const piece of act.pieces) await this.requireRevision(roomId, piece);
      const before = await this.stateOf(roomId);
      const after = this.stateAfter(roomId, before, act);
      const isStop = act.kind === 'say' && act.saying.kind === 'stop';
      this.hold(roomId, after);
      if (isStop) tell(after);
      let state: RoomState;
      try {
        state = await this.kept(roomId, act, after);
      } catch (error) {
        if (!isStop) this.hold(roomId, before);
        throw error;
      }
      if (!isStop) tell(state);
      return state;
    });
  }

  /** Rehearsals that work on a piece go on with the newest revision of it, wherever it was saved. */
  renew(saved: SavedRevision, tell: (roomId: string, state: RoomState) => void): Promise<void> {
    return this.renewing.runExclusive(async () => {
      const { ensembleId } = await this.pieces.findOneByOrFail({ id: saved.pieceId });
      const rows = await this.rooms.findBy({ ensembleId, endedAt: IsNull() });
      for (const { id } of rows.filter(isOpen)) {
        const { open } = await this.stateOf(id);
        if (open?.pieceId !== saved.pieceId || open.revision >= saved.revision) continue;
        await this.act(id, { kind: 'open', ...saved }, (state) => tell(id, state));
      }
    });
  }

  /** Kept in one transaction; where another process may have acted meanwhile, as it comes out of what is kept by then. */
  private kept(roomId: string, act: RoomAct, after: RoomState): Promise<RoomState> {
    return this.writer.run(async (manager) => {
      let state = after;
      if (this.siblings.mayBeThere) {
        const row = await manager.findOneByOrFail(RoomEntity, { id: roomId });
        state = this.stateAfter(roomId, wholeState(row), act);
      }
      await manager.update(RoomEntity, { id: roomId }, { state });
      return state;
    });
  }

  private stateAfter(roomId: string, before: RoomState, act: RoomAct): RoomState {
    const moment = { nowMs: serverNowMs(), leadMs: leadMsFor(this.presence.slowRoundTrips(roomId)) };
    const result = roomAfter(before, act, moment);
    if (!result.ok) throw refusedAct(result.problem.message);
    return result.value;
  }

  private async requireRevision(
    roomId: string,
    { pieceId, revision }: { readonly pieceId: string; readonly revision: number },
  ): Promise<void> {
    const { ensembleId } = await this.openRoom(roomId);
    const isHere = await this.pieces.existsBy({ id: pieceId, ensembleId });
    if (!isHere || !(await this.revisions.existsBy({ pieceId, revision })))
      throw notFound('revision of a piece of this ensemble');
  }

  private turnOf(roomId: string): Mutex {
    const turn = this.turns.get(roomId) ?? new Mutex();
    this.turns.set(roomId, turn);
    return turn;
  }

  private async openRoom(roomId: string): Promise<RoomEntity> {
    const row = await this.rooms.findOneBy({ id: roomId });
    if (!row || !isOpen(row)) throw notFound('open rehearsal');
    return row;
  }

  private refuseGuesser(address: string): void {
    const wait = this.wrongOfAddress.waitSeconds(address);
    if (wait > 0) throw tooMany(`Too many wrong codes; try again in ${howMany(wait, 'second')}`, wait);
    if (this.wrongOfAll.waitSeconds(EVERYWHERE) === 0) return;
    const late = this.lateTries.waitSeconds(address);
    if (late > 0)
      throw tooMany(`Many wrong codes were tried here; try again in ${howMany(late, 'second')}`, late);
    this.lateTries.add(address);
  }

  /** Compared with every open room's code in constant time. */
  private async roomByCodeMaybe(code: string): Promise<RoomEntity | null> {
    if (!isCode(code)) return null;
    const rows = await this.rooms.findBy({ endedAt: IsNull() });
    const given = Buffer.from(code);
    return rows.filter(isOpen).reduce<RoomEntity | null>((found, row) => {
      const isSame = row.code.length === code.length && timingSafeEqual(Buffer.from(row.code), given);
      return isSame ? row : found;
    }, null);
  }

  private async newCode(): Promise<string> {
    for (;;) {
      const code = Array.from(
        { length: CODE_LENGTH },
        () => CODE_LETTERS[randomInt(CODE_LETTERS.length)],
      ).join('');
      if (!(await this.rooms.existsBy({ code, endedAt: IsNull() }))) return code;
    }
  }

  private response({ id, ensembleId, code, expiresAt }: RoomEntity): RoomResponse {
    return {
      id,
      ensembleId,
      code,
      expiresAt,
      addresses: this.addresses.list(),
      isOpenToHall: this.addresses.isOpenToHall,
    };
  }

  private tell(roomId: string, change: Parameters<Listener>[1]): void {
    for (const listener of this.listeners) listener(roomId, change);
  }
}

/** A room of an earlier version knows less of itself. */
function wholeState({ state }: RoomEntity): RoomState {
  return { ...EMPTY_ROOM, ...state };
}

function noSuchCode(): ProblemException {
  return new ProblemException({
    type: PROBLEM_TYPES.notFound,
    title: 'No such rehearsal',
    status: 404,
    detail: 'No rehearsal has this code: look at it once more, or ask for a new one',
  });
}

function refusedAct(detail: string): ProblemException {
  return new ProblemException({ type: PROBLEM_TYPES.stale, title: 'Changed meanwhile', status: 409, detail });
}
