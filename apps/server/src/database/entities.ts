import type { LogRunRequest, SaveDateRequest, SaveDrillRequest } from '@anchorbeat/contract';
import type { NoteNames } from '@anchorbeat/core';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryColumn, Unique } from 'typeorm';

/** A band or choir with its shelf of pieces. */
@Entity('ensembles')
export class EnsembleEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text')
  name: string;

  @Column('text')
  place: string;

  /** Names of its sections. */
  @Column('simple-json')
  sections: readonly string[];

  /** In whose English it names notes. */
  @Column('text', { name: 'note_names', default: 'quarter' })
  noteNames: NoteNames;
}

/** A piece exists; what is written in it is in its revisions. */
@Entity('pieces')
export class PieceEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'ensemble_id' })
  ensembleId: string;

  @ManyToOne(() => EnsembleEntity, { onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'ensemble_id' })
  ensemble?: EnsembleEntity;

  /** Order on the shelf. */
  @Column('integer', { name: 'shelf_order' })
  shelfOrder: number;

  /** Off the shelf, with all it has. */
  @Column('boolean', { name: 'is_set_aside', default: false })
  isSetAside: boolean;
}

/**
 * One saved state of a piece. Never changed once written. Numbers of a piece run 1, 2, 3 … without a
 * gap, and the unique pair is what refuses a stale save.
 */
@Entity('revisions')
@Unique('revisions_piece_revision', ['pieceId', 'revision'])
export class RevisionEntity {
  /** The client's id of the save. */
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'piece_id' })
  pieceId: string;

  @ManyToOne(() => PieceEntity, { onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'piece_id' })
  pieceRow?: PieceEntity;

  @Column('integer')
  revision: number;

  /** ISO 8601, UTC. */
  @Column('text', { name: 'saved_at' })
  savedAt: string;

  /** The piece document, JSON. */
  @Column('text')
  document: string;

  /** What was done, in a musician's words: a JSON list of strings. */
  @Column('text')
  edits: string;
}

/** A drill kept with a piece. Taken away it keeps its row, so that it can come back. */
@Entity('drills')
export class DrillEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'piece_id' })
  pieceId: string;

  @ManyToOne(() => PieceEntity, { onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'piece_id' })
  pieceRow?: PieceEntity;

  /** Everything that was asked to be kept, JSON. */
  @Column('simple-json')
  settings: SaveDrillRequest;

  /** ISO 8601, UTC. */
  @Column('text', { name: 'saved_at' })
  savedAt: string;

  @Column('text', { name: 'deleted_at', nullable: true })
  deletedAt: string | null;
}

/** One run of the log. */
@Entity('runs')
export class RunEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'piece_id' })
  pieceId: string;

  @ManyToOne(() => PieceEntity, { onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'piece_id' })
  pieceRow?: PieceEntity;

  /** ISO 8601, UTC: what the log is ordered by. */
  @Column('text', { name: 'started_at' })
  startedAt: string;

  /** Everything that was logged, JSON. */
  @Column('simple-json')
  result: LogRunRequest;

  @Column('text', { name: 'deleted_at', nullable: true })
  deletedAt: string | null;
}

/** A rehearsal or a concert. Taken away it keeps its row, so that it can come back. */
@Entity('dates')
export class DateEntity {
  @PrimaryColumn('text')
  id: string;

  @Column('text', { name: 'ensemble_id' })
  ensembleId: string;

  @ManyToOne(() => EnsembleEntity, { onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'ensemble_id' })
  ensemble?: EnsembleEntity;

  /** The time on the clock of the place: what dates are ordered by. */
  @Column('text')
  at: string;

  /** Everything that was asked to be kept, JSON. */
  @Column('simple-json')
  details: SaveDateRequest;

  @Column('text', { name: 'deleted_at', nullable: true })
  deletedAt: string | null;
}
