import { createHash } from 'node:crypto';
import type { ArchivePreview, ArchivedPiecePreview } from '@anchorbeat/contract';
import type { PieceDocument } from '@anchorbeat/core';
import type { Database } from 'better-sqlite3';
import { v5 } from 'uuid';
import { ARCHIVE_TABLES, type Archive, type PieceRow, type RevisionRow } from './archiveRows.ts';

type Table = keyof typeof ARCHIVE_TABLES;
type Value = string | number | null;
type Row = Readonly<Record<string, Value>>;

/** What bringing an archive back would do: in words, and as rows to be put in. Nothing that is there is changed. */
export interface RestorePlan {
  readonly preview: ArchivePreview;
  readonly isNewEnsemble: boolean;
  /** Sections of the ensemble afterwards. */
  readonly sections: readonly string[];
  readonly rows: ReadonlyArray<{ readonly table: Table; readonly row: Row }>;
}

/** Names the copies of pieces that are here with another history; the same archive makes the same copies. */
const COPIES = '6ba7b812-9dad-11d1-80b4-00c04fd430c8';

/**
 * Holds an archive against a database. What is missing there comes in; what is there stays. A piece that went on
 * otherwise in both comes in beside the one that is there.
 */
export function planRestore(database: Database, archive: Archive): RestorePlan {
  return new RestorePlanner(database, archive).plan();
}

class RestorePlanner {
  private readonly rows: Array<{ table: Table; row: Row }> = [];
  private readonly pieces: ArchivedPiecePreview[] = [];
  private readonly isNewEnsemble: boolean;
  private readonly sectionsHere: readonly string[];
  private nextOrder: number;

  constructor(
    private readonly database: Database,
    private readonly archive: Archive,
  ) {
    const { id } = archive.ensemble;
    const here = database.prepare('SELECT sections FROM ensembles WHERE id = ?').get(id) as
      | { readonly sections: string }
      | undefined;
    this.isNewEnsemble = !here;
    this.sectionsHere = here ? (JSON.parse(here.sections) as string[]) : [];
    const counted = database.prepare('SELECT COUNT(*) AS n FROM pieces WHERE ensemble_id = ?').get(id);
    this.nextOrder = (counted as { n: number }).n;
  }

  plan(): RestorePlan {
    const { ensemble, madeAt } = this.archive;
    const movedTo = new Map(this.archive.pieces.map((piece) => [piece.id, this.place(piece)]));
    const drills = this.addRows('drills', this.archive.drills, movedTo);
    const runs = this.addRows('runs', this.archive.runs, movedTo);
    const dates = this.addRows('dates', this.archive.dates, movedTo);
    const sections = [...new Set([...this.sectionsHere, ...ensemble.sections])];
    const told = {
      ensemble: ensemble.name,
      madeAt,
      isNewEnsemble: this.isNewEnsemble,
      newSections: this.isNewEnsemble ? [] : sections.slice(this.sectionsHere.length),
      pieces: this.pieces,
      drills,
      runs,
      dates,
    };
    const digest = createHash('sha256').update(JSON.stringify(told)).digest('hex');
    return {
      preview: { ...told, digest },
      isNewEnsemble: this.isNewEnsemble,
      sections,
      rows: this.rows,
    };
  }

  /** Sees to a piece and its revisions; gives the id it has here afterwards. */
  private place(piece: PieceRow): string {
    const revisions = this.archive.revisions.get(piece.id) ?? [];
    const title = titleOf(revisions);
    const here = this.revisionsHere(piece.id);
    const common = here && here.findIndex((row, at) => !isSameRevision(row, revisions[at]));
    if (here === null && !this.hasForeignRevision(revisions)) {
      this.addPiece(piece, revisions, piece.id);
      this.pieces.push({ title, does: 'new', revisions: revisions.length });
      return piece.id;
    }
    if (here && common === -1 && here.length <= revisions.length) {
      const more = revisions.slice(here.length);
      for (const row of more) this.rows.push({ table: 'revisions', row: { ...row } });
      this.pieces.push({ title, does: more.length > 0 ? 'goes on' : 'same', revisions: more.length });
      return piece.id;
    }
    if (here && common !== null && common === revisions.length) {
      this.pieces.push({ title, does: 'same', revisions: 0 });
      return piece.id;
    }
    return this.placeBeside(piece, revisions, title);
  }

  private placeBeside(piece: PieceRow, revisions: readonly RevisionRow[], title: string): string {
    const copyId = derived(piece.id, `${revisions.at(-1)?.id} ${this.archive.ensemble.id}`);
    if (this.revisionsHere(copyId) !== null) {
      this.pieces.push({ title, does: 'same', revisions: 0 });
      return copyId;
    }
    const copied = revisions.map((row) => ({ ...row, id: derived(row.id, copyId), piece_id: copyId }));
    this.addPiece(piece, copied, copyId);
    this.pieces.push({ title, does: 'beside', revisions: revisions.length });
    return copyId;
  }

  private addPiece(piece: PieceRow, revisions: readonly RevisionRow[], id: string): void {
    const shelf_order = this.isNewEnsemble ? piece.shelf_order : this.nextOrder++;
    this.rows.push({
      table: 'pieces',
      row: { id, shelf_order, is_set_aside: piece.is_set_aside },
    });
    for (const row of revisions) this.rows.push({ table: 'revisions', row: { ...row } });
  }

  /** Rows that are not here come in; one that is here stays as it is. */
  private addRows(
    table: 'drills' | 'runs' | 'dates',
    archived: ReadonlyArray<{ readonly id: string; readonly piece_id?: string }>,
    movedTo: ReadonlyMap<string, string>,
  ): ArchivePreview['drills'] {
    const columns: readonly string[] = ARCHIVE_TABLES[table];
    const owner = table === 'dates' ? 'ensemble_id' : 'piece_id';
    const find = this.database.prepare(
      `SELECT ${columns.join(', ')}, ${owner} AS owner FROM ${table} WHERE id = ?`,
    );
    const count = { new: 0, same: 0, kept: 0 };
    for (const row of archived as ReadonlyArray<Row & { id: string }>) {
      const was = String(row['piece_id'] ?? '');
      const ownerId = table === 'dates' ? this.archive.ensemble.id : (movedTo.get(was) ?? was);
      const isMoved = table !== 'dates' && ownerId !== was;
      const moved: Row & { id: string } = isMoved
        ? { ...row, id: derived(row.id, ownerId), piece_id: ownerId }
        : row;
      const here = find.get(moved.id) as Row | undefined;
      if (here && here['owner'] !== ownerId) {
        // An id that belongs to something else here: the row comes in under one of its own.
        const own = { ...moved, id: derived(moved.id, ownerId) };
        if (find.get(own.id)) count.same++;
        else this.add(table, own, count);
      } else if (!here) this.add(table, moved, count);
      else if (columns.every((column) => here[column] === moved[column])) count.same++;
      else count.kept++;
    }
    return count;
  }

  private add(table: Table, row: Row, count: { new: number }): void {
    this.rows.push({ table, row });
    count.new++;
  }

  /** The revisions of a piece of this ensemble here; null where it has no such piece. */
  private revisionsHere(pieceId: string): readonly RevisionRow[] | null {
    const piece = this.database.prepare('SELECT ensemble_id FROM pieces WHERE id = ?').get(pieceId) as
      | { readonly ensemble_id: string }
      | undefined;
    if (!piece || piece.ensemble_id !== this.archive.ensemble.id) return null;
    return this.database
      .prepare(
        `SELECT ${ARCHIVE_TABLES.revisions.join(', ')} FROM revisions WHERE piece_id = ? ORDER BY revision`,
      )
      .all(pieceId) as RevisionRow[];
  }

  /** Whether the id of the piece or of one of its saves is another's here. */
  private hasForeignRevision(revisions: readonly RevisionRow[]): boolean {
    const known = this.database.prepare(
      'SELECT 1 FROM revisions WHERE id = ? UNION SELECT 1 FROM pieces WHERE id = ?',
    );
    return revisions.some(({ id, piece_id }) => known.get(id, piece_id) !== undefined);
  }
}

function isSameRevision(a: RevisionRow, b: RevisionRow | undefined): boolean {
  return b !== undefined && a.id === b.id && a.document === b.document;
}

function titleOf(revisions: readonly RevisionRow[]): string {
  const newest = revisions.at(-1);
  return newest ? (JSON.parse(newest.document) as PieceDocument).title : '';
}

function derived(id: string, of: string): string {
  return v5(`${id} ${of}`, COPIES);
}
