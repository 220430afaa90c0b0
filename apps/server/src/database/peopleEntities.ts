import type { RoomState } from '@anchorbeat/core';
import type { MemberRole } from '@anchorbeat/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** Who may sign in. */
@Entity('accounts')
export class AccountEntity {
  @PrimaryColumn('text')
  id: string;

  /** What is typed to sign in, in small letters. */
  @Column('text')
  name: string;

  @Column('text', { name: 'display_name' })
  displayName: string;

  /** Null for whoever sits at the machine of a server without accounts. */
  @Column('text', { name: 'password_hash', nullable: true })
  passwordHash: string | null;

  /** ISO 8601, UTC. */
  @Column('text', { name: 'created_at' })
  createdAt: string;
}

/** An account leads an ensemble. */
@Entity('members')
export class MemberEntity {
  @PrimaryColumn('text', { name: 'ensemble_id' })
  ensembleId: string;

  @PrimaryColumn('text', { name: 'account_id' })
  accountId: string;

  @Column('text')
  role: MemberRole;
}

/** A browser in which an account is signed in; of its token only the hash is kept. */
@Entity('sign_ins')
export class SignInEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'token_hash' })
  tokenHash: string;

  @Column('text', { name: 'account_id' })
  accountId: string;

  @Column('text')
  device: string;

  @Column('text', { name: 'created_at' })
  createdAt: string;

  @Column('text', { name: 'last_seen_at' })
  lastSeenAt: string;

  @Column('text', { name: 'expires_at' })
  expiresAt: string;
}

/** A rehearsal that stands may join. */
@Entity('rooms')
export class RoomEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'ensemble_id' })
  ensembleId: string;

  @Column('text')
  code: string;

  @Column('text', { name: 'created_at' })
  createdAt: string;

  @Column('text', { name: 'expires_at' })
  expiresAt: string;

  @Column('text', { name: 'ended_at', nullable: true })
  endedAt: string | null;

  /** What is open, run, heard and said in it, so that it outlives the server's process. */
  @Column('simple-json')
  state: RoomState;
}

/** A stand that has joined a room. */
@Entity('stands')
export class StandEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'room_id' })
  roomId: string;

  @Column('text', { name: 'token_hash' })
  tokenHash: string;

  @Column('text')
  section: string;

  @Column('text')
  name: string;

  @Column('text', { name: 'joined_at' })
  joinedAt: string;

  @Column('text', { name: 'revoked_at', nullable: true })
  revokedAt: string | null;
}
