import type { IncomingMessage } from 'node:http';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { mayDo, type Role, type RoleAction } from '@anchorbeat/core';
import type { MemberRole, SignedIn } from '@anchorbeat/contract';
import { Repository } from 'typeorm';
import { EnsembleEntity, PieceEntity } from '../database/entities.ts';
import { AccountEntity, MemberEntity, RoomEntity, StandEntity } from '../database/peopleEntities.ts';
import { SignInsService } from './signIns.service.ts';
import { hashOf } from './tokens.ts';

/** Who speaks: an account with its roles, a stand of one room, or nobody. */
export type Identity =
  | {
      readonly kind: 'account';
      readonly accountId: string;
      readonly displayName: string;
      readonly signInId: string;
      readonly roles: ReadonlyMap<string, MemberRole>;
    }
  | { readonly kind: 'stand'; readonly stand: StandEntity; readonly room: RoomEntity }
  | { readonly kind: 'nobody' };

export type AccountIdentity = Extract<Identity, { kind: 'account' }>;

export const NOBODY: Identity = { kind: 'nobody' };

/** The local account: whoever sits at the machine of a server that has no other. */
export const LOCAL_ACCOUNT = 'local';

/** Finds out who speaks, and what they may do. */
@Injectable()
export class AccessService {
  private readonly ensembleOfPiece = new Map<string, string>();

  constructor(
    @InjectRepository(AccountEntity) private readonly accounts: Repository<AccountEntity>,
    @InjectRepository(MemberEntity) private readonly members: Repository<MemberEntity>,
    @InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>,
    @InjectRepository(PieceEntity) private readonly pieces: Repository<PieceEntity>,
    @InjectRepository(StandEntity) private readonly stands: Repository<StandEntity>,
    @InjectRepository(RoomEntity) private readonly rooms: Repository<RoomEntity>,
    private readonly signIns: SignInsService,
  ) {}

  /** Of a request or of the opening of a socket: by its cookie, else by the token of a stand. */
  async identityOf(request: IncomingMessage, standToken: string | null): Promise<Identity> {
    if (standToken !== null) return this.standIdentity(standToken);
    const signIn = await this.signIns.ofMaybe(request);
    const account = signIn && (await this.accounts.findOneBy({ id: signIn.accountId }));
    if (!account) return NOBODY;
    const roles = await this.members.findBy({ accountId: account.id });
    return {
      kind: 'account',
      accountId: account.id,
      displayName: account.displayName,
      signInId: signIn.id,
      roles: new Map(roles.map(({ ensembleId, role }) => [ensembleId, role])),
    };
  }

  private async standIdentity(token: string): Promise<Identity> {
    const stand = await this.stands.findOneBy({ tokenHash: hashOf(token) });
    if (!stand || stand.revokedAt !== null) return NOBODY;
    const room = await this.rooms.findOneBy({ id: stand.roomId });
    return room && isOpen(room) ? { kind: 'stand', stand, room } : NOBODY;
  }

  roleIn(identity: Identity, ensembleId: string): Role {
    if (identity.kind === 'account') return identity.roles.get(ensembleId) ?? 'nobody';
    return identity.kind === 'stand' && identity.room.ensembleId === ensembleId ? 'stand' : 'nobody';
  }

  may(identity: Identity, action: RoleAction, ensembleId: string): boolean {
    return mayDo(this.roleIn(identity, ensembleId), action);
  }

  /** Whether somebody directs every ensemble, and so may act for the whole server. */
  async keepsServer(identity: Identity): Promise<boolean> {
    if (identity.kind !== 'account') return false;
    const ensembles = await this.ensembles.find({ select: { id: true } });
    return ensembles.every(({ id }) => identity.roles.get(id) === 'director');
  }

  /** The ensemble of a piece; null where there is no such piece. */
  async ensembleOfPieceMaybe(pieceId: string): Promise<string | null> {
    const known = this.ensembleOfPiece.get(pieceId);
    if (known !== undefined) return known;
    const piece = await this.pieces.findOneBy({ id: pieceId });
    if (piece) this.ensembleOfPiece.set(pieceId, piece.ensembleId);
    return piece?.ensembleId ?? null;
  }

  async ensembleOfRoomMaybe(roomId: string): Promise<string | null> {
    return (await this.rooms.findOneBy({ id: roomId }))?.ensembleId ?? null;
  }

  asSignedIn({ accountId, displayName, roles }: AccountIdentity): SignedIn {
    return {
      accountId,
      displayName,
      isLocal: accountId === LOCAL_ACCOUNT,
      roles: [...roles].map(([ensembleId, role]) => ({ ensembleId, role })),
    };
  }
}

/** Whether a room may still be joined and spoken in. */
export function isOpen({ endedAt, expiresAt }: RoomEntity): boolean {
  return endedAt === null && expiresAt > new Date().toISOString();
}
