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
