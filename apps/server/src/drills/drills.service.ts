import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { DrillResponse, LogRunRequest, RunResponse, SaveDrillRequest } from '@anchorbeat/contract';
import { IsNull, Repository, type EntityTarget, type FindOptionsWhere } from 'typeorm';
import { DrillEntity, PieceEntity, RunEntity } from '../database/entities.ts';
import { SerialWriter } from '../database/connection.ts';
import { alreadyExists, notFound } from '../problems/problemException.ts';
import { PlacesNow } from './placesNow.ts';

/** The newest runs that are told at once: years of rehearsing one piece. */
const LISTED_RUNS = 5000;

/** Drills kept with a piece, and its log. What is put twice under one id is kept once, as it was put last. */
@Injectable()
export class DrillsService {
  constructor(
    @InjectRepository(PieceEntity) private readonly pieces: Repository<PieceEntity>,
    @InjectRepository(DrillEntity) private readonly drills: Repository<DrillEntity>,
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    private readonly writer: SerialWriter,
    private readonly placesNow: PlacesNow,
  ) {}

  async listDrills(pieceId: string): Promise<DrillResponse[]> {
    await this.mustExist(pieceId);
    const rows = await this.drills.find({
      where: { pieceId, deletedAt: IsNull() },
      order: { savedAt: 'ASC' },
    });
    return this.placesNow.ofDrills(pieceId, rows.map(drillResponse));
  }

  async listRuns(pieceId: string): Promise<RunResponse[]> {
    await this.mustExist(pieceId);
    const rows = await this.runs.find({
      where: { pieceId, deletedAt: IsNull() },
      order: { startedAt: 'DESC' },
      take: LISTED_RUNS,
    });
    const runs = rows.map((row) => withoutOnsets(runResponse(row))).reverse();
    return this.placesNow.ofRuns(pieceId, runs);
  }

  async getRun(pieceId: string, id: string): Promise<RunResponse> {
    const row = await this.runs.findOneBy({ id, pieceId, deletedAt: IsNull() });
    if (!row) throw notFound('run');
    return runResponse(row);
  }

  async saveDrill(pieceId: string, id: string, settings: SaveDrillRequest): Promise<DrillResponse> {
    await this.mustBeFree(this.drills, pieceId, id, 'drill');
    const row = { id, pieceId, settings, savedAt: new Date().toISOString(), deletedAt: null };
    await this.writer.run((manager) => manager.upsert(DrillEntity, row, ['id']));
    return drillResponse(row);
  }

  /** With `onlyNew` a run that was logged before, by whoever started it, stays as it is, also where it was taken out. */
  async logRun(
    pieceId: string,
    id: string,
    result: LogRunRequest,
    { onlyNew }: { readonly onlyNew: boolean },
  ): Promise<RunResponse> {
    const known = await this.mustBeFree(this.runs, pieceId, id, 'run');
    if (known && onlyNew) return runResponse(known);
    const startedAt = new Date(result.startedAt).toISOString();
    const row = { id, pieceId, startedAt, result: keepingTake(result, known?.result), deletedAt: null };
    await this.writer.run((manager) => manager.upsert(RunEntity, row, ['id']));
    return runResponse(row);
  }

  removeDrill(pieceId: string, id: string): Promise<void> {
    return this.remove(DrillEntity, pieceId, id, 'drill');
  }

  removeRun(pieceId: string, id: string): Promise<void> {
    return this.remove(RunEntity, pieceId, id, 'run');
  }

  /** Marks it as gone; put again it is back. */
  private async remove(
    entity: EntityTarget<DrillEntity | RunEntity>,
    pieceId: string,
    id: string,
    what: string,
  ): Promise<void> {
    const { affected } = await this.writer.run((manager) =>
      manager.update(entity, { id, pieceId, deletedAt: IsNull() }, { deletedAt: new Date().toISOString() }),
    );
    if (!affected) throw notFound(what);
  }

  private async mustExist(pieceId: string): Promise<void> {
    if (!(await this.pieces.existsBy({ id: pieceId }))) throw notFound('piece');
  }

  private async mustBeFree<Row extends DrillEntity | RunEntity>(
    rows: Repository<Row>,
    pieceId: string,
    id: string,
    what: string,
  ): Promise<Row | null> {
    await this.mustExist(pieceId);
    const known = await rows.findOne({ where: { id } as FindOptionsWhere<Row> });
    if (known && known.pieceId !== pieceId) throw alreadyExists(what);
    return known;
  }
}

type DrillRow = Pick<DrillEntity, 'id' | 'settings' | 'savedAt'>;

function drillResponse({ id, settings, savedAt }: DrillRow): DrillResponse {
  return { ...settings, id, savedAt };
}

function runResponse({ id, result, startedAt }: Pick<RunEntity, 'id' | 'result' | 'startedAt'>): RunResponse {
  return { ...result, startedAt, id };
}

/** A list of many runs tells of a take what was done at the seams; its onsets come with the single run. */
function withoutOnsets({ take, sectionTakes, ...run }: RunResponse): RunResponse {
  return {
    ...run,
    ...(take && { take: { ...take, onsets: [] } }),
    ...(sectionTakes && {
      sectionTakes: sectionTakes.map((one) => ({ ...one, take: { ...one.take, onsets: [] } })),
    }),
  };
}

/** A mark or a note that is changed later comes without what was measured, or without its onsets: it stays as it was. */
function keepingTake(result: LogRunRequest, known: LogRunRequest | undefined): LogRunRequest {
  const isMeasured = (takes: readonly LogRunRequest['take'][]) =>
    takes.some((take) => take && take.onsets.length > 0);
  const keepsOwn = known?.take && !isMeasured([result.take]);
  const keepsSections =
    known?.sectionTakes && !isMeasured((result.sectionTakes ?? []).map(({ take }) => take));
  return {
    ...result,
    ...(keepsOwn && { take: known.take }),
    ...(keepsSections && { sectionTakes: known.sectionTakes }),
  };
}
