import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import {
  barsMoved,
  barTexts,
  differencesBetween,
  readPiece,
  type Piece,
  type PieceDocument,
} from '@anchorbeat/core';
import type {
  CreatePieceRequest,
  PieceResponse,
  RevisionResponse,
  SavedResponse,
  SaveRevisionRequest,
  ShelvePieceRequest,
} from '@anchorbeat/contract';
import { In, LessThan, QueryFailedError, Repository } from 'typeorm';
import { EnsembleEntity, PieceEntity, RevisionEntity } from '../database/entities.ts';
import { SerialWriter } from '../database/connection.ts';
import { alreadyExists, baseGone, invalid, notFound, stale } from '../problems/problemException.ts';
import { plansFollow } from '../season/plansFollow.ts';
import { SavedRevisions } from './savedRevisions.ts';

const LISTED_REVISIONS = 100;

/** Pieces as sequences of revisions. Writing is append only. */
@Injectable()
export class PiecesService {
  constructor(
    @InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>,
    @InjectRepository(PieceEntity) private readonly pieces: Repository<PieceEntity>,
    @InjectRepository(RevisionEntity) private readonly revisions: Repository<RevisionEntity>,
    private readonly writer: SerialWriter,
    private readonly saved: SavedRevisions,
  ) {}

  async list(ensembleIds: readonly string[]): Promise<PieceResponse[]> {
    const pieces = await this.pieces.find({
      where: { ensembleId: In([...ensembleIds]) },
      order: { ensembleId: 'ASC', shelfOrder: 'ASC' },
    });
    const newest = await this.newestRevisions();
    return pieces.flatMap((piece) => {
      const revision = newest.get(piece.id);
      return revision ? [pieceResponse(piece, revision)] : [];
    });
  }

  async get(pieceId: string): Promise<PieceResponse> {
    return pieceResponse(await this.pieceOf(pieceId), await this.newest(pieceId));
  }

  /** A page of what was saved, newest first: what comes before a revision, or from the newest on. */
  async history(pieceId: string, before: number): Promise<RevisionResponse[]> {
    await this.pieceOf(pieceId);
    const rows = await this.revisions.find({
      where: { pieceId, revision: LessThan(before) },
      order: { revision: 'DESC' },
      take: LISTED_REVISIONS,
      select: { revision: true, savedAt: true, edits: true },
    });
    return rows.map((row) => ({
      revision: row.revision,
      savedAt: row.savedAt,
      edits: JSON.parse(row.edits) as string[],
    }));
  }

  async revision(pieceId: string, revision: number): Promise<PieceResponse> {
    const row = await this.revisions.findOneBy({ pieceId, revision });
    if (!row) throw notFound('revision');
    return pieceResponse(await this.pieceOf(pieceId), row);
  }

  async create({ id, ensembleId, piece }: CreatePieceRequest): Promise<PieceResponse> {
    if (!(await this.ensembles.existsBy({ id: ensembleId }))) throw notFound('ensemble');
    // A piece and its first save share their id.
    if (await this.pieces.existsBy({ id })) throw alreadyExists('piece');
    if (await this.revisions.existsBy({ id })) throw alreadyExists('save');
    await this.writer.run(async (manager) => {
      const shelfOrder = await manager.countBy(PieceEntity, { ensembleId });
      await manager.insert(PieceEntity, { id, ensembleId, shelfOrder });
      await manager.insert(RevisionEntity, newRevision(id, id, 1, piece, ['Piece made']));
    });
    return this.get(id);
  }

  /** Puts a piece at a place of its ensemble's shelf, from 0, or sets it aside; what is aside comes after. */
  async shelve(pieceId: string, { place, isSetAside }: ShelvePieceRequest): Promise<PieceResponse> {
    const { ensembleId } = await this.pieceOf(pieceId);
    await this.writer.run(async (manager) => {
      const all = await manager.find(PieceEntity, { where: { ensembleId }, order: { shelfOrder: 'ASC' } });
      const others = all.filter(({ id }) => id !== pieceId);
      const ids = (wanted: boolean) => others.filter((one) => one.isSetAside === wanted).map(({ id }) => id);
      const [onShelf, aside] = [ids(false), ids(true)];
      (isSetAside ? aside : onShelf).splice(place, 0, pieceId);
      for (const [shelfOrder, id] of [...onShelf, ...aside].entries())
        await manager.update(PieceEntity, { id }, { shelfOrder });
      await manager.update(PieceEntity, { id: pieceId }, { isSetAside });
    });
    return this.get(pieceId);
  }

  /** Appends a revision, or refuses it as stale with what the newer ones changed. Asking twice saves once. */
  async save(pieceId: string, request: SaveRevisionRequest): Promise<SavedResponse> {
    const piece = await this.pieceOf(pieceId);
    const already = await this.revisions.findOneBy({ id: request.id });
    if (already) return sameSave(already, pieceId, request);
    const current = await this.newest(pieceId);
    if (request.basedOnRevision > current.revision)
      throw notYetSaved(request.basedOnRevision, current.revision);
    // After a backup was brought back the number in between may be free; what would come there is not the newest.
    if (request.basedOnRevision < current.revision)
      throw await this.staleProblem(pieceId, request.basedOnRevision);
    const next = newRevision(
      request.id,
      pieceId,
      request.basedOnRevision + 1,
      request.piece,
      request.edits ?? [],
    );
    const before = JSON.parse(current.document) as PieceDocument;
    const moved = barsMoved(barTexts(before.bars), barTexts(request.piece.bars));
    try {
      await this.writer.run(async (manager) => {
        await manager.insert(RevisionEntity, next);
        await plansFollow(manager, piece, moved);
      });
    } catch (error) {
      if (!isUniqueViolation(error)) throw error;
      throw await this.staleProblem(pieceId, request.basedOnRevision);
    }
    this.saved.tell({ pieceId, revision: next.revision });
    return { revision: next.revision, savedAt: next.savedAt };
  }

  private async staleProblem(pieceId: string, basedOnRevision: number) {
    const current = await this.newest(pieceId);
    const base = await this.revisions.findOneBy({ pieceId, revision: basedOnRevision });
    if (!base) return baseGone(current.revision);
    const differences = differencesBetween(storedPiece(base), storedPiece(current));
    return stale(
      current.revision,
      differences.map((difference) => difference.says),
    );
  }

  private async pieceOf(id: string): Promise<PieceEntity> {
    const piece = await this.pieces.findOneBy({ id });
    if (!piece) throw notFound('piece');
    return piece;
  }

  private async newest(pieceId: string): Promise<RevisionEntity> {
    const row = await this.revisions.findOne({ where: { pieceId }, order: { revision: 'DESC' } });
    if (!row) throw notFound('piece');
    return row;
  }

  private async newestRevisions(): Promise<Map<string, RevisionEntity>> {
    const rows = await this.revisions
      .createQueryBuilder('r')
      .where('r.revision = (SELECT MAX(n.revision) FROM revisions n WHERE n.piece_id = r.piece_id)')
      .getMany();
    return new Map(rows.map((row) => [row.pieceId, row]));
  }
}

/** The answer to a save that is sent again; another save must not come under the same id. */
function sameSave(row: RevisionEntity, pieceId: string, request: SaveRevisionRequest): SavedResponse {
  const isSame =
    row.pieceId === pieceId &&
    row.revision === request.basedOnRevision + 1 &&
    row.document === JSON.stringify(request.piece);
  if (!isSame) throw alreadyExists('save');
  return { revision: row.revision, savedAt: row.savedAt };
}

/** A revision ready to be written, dated now. */
export function newRevision(
  id: string,
  pieceId: string,
  revision: number,
  piece: PieceDocument,
  edits: readonly string[],
): RevisionEntity {
  return Object.assign(new RevisionEntity(), {
    id,
    pieceId,
    revision,
    savedAt: new Date().toISOString(),
    document: JSON.stringify(piece),
    edits: JSON.stringify(edits),
  });
}

function pieceResponse(piece: PieceEntity, row: RevisionEntity): PieceResponse {
  return {
    id: piece.id,
    ensembleId: piece.ensembleId,
    revision: row.revision,
    savedAt: row.savedAt,
    isSetAside: piece.isSetAside,
    piece: JSON.parse(row.document) as PieceDocument,
  };
}

function storedPiece(row: RevisionEntity): Piece {
  const reading = readPiece(JSON.parse(row.document));
  if (!reading.ok) throw new Error(`revision ${row.revision} of piece ${row.pieceId} does not read`);
  return reading.piece;
}

function notYetSaved(basedOn: number, current: number) {
  return invalid([
    {
      field: 'basedOnRevision',
      value: String(basedOn),
      message: `This save says it is based on revision ${basedOn}, but the newest is ${current}: open the piece again`,
    },
  ]);
}

function isUniqueViolation(error: unknown): boolean {
  const code = error instanceof QueryFailedError && (error.driverError as { code?: string }).code;
  return code === 'SQLITE_CONSTRAINT_UNIQUE' || code === 'SQLITE_CONSTRAINT_PRIMARYKEY';
}
