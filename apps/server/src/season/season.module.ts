import { Body, Controller, Delete, Get, HttpCode, Injectable, Module, Put } from '@nestjs/common';
import { uuidParam } from '../http/uuidParam.ts';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import { InjectRepository } from '@nestjs/typeorm';
import { KeepDateRequest, type DateResponse } from '@anchorbeat/contract';
import { IsNull, Repository } from 'typeorm';
import { SerialWriter } from '../database/connection.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { DateEntity, EnsembleEntity } from '../database/entities.ts';
import { alreadyExists, notFound } from '../problems/problemException.ts';
import { mergedDate } from './mergeDate.ts';

/** Years of two rehearsals a week. */
const LISTED_DATES = 2000;

/** Rehearsals and concerts. What is put twice under one id is kept once, as it was put last. */
@Injectable()
class SeasonService {
  constructor(
    @InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>,
    @InjectRepository(DateEntity) private readonly dates: Repository<DateEntity>,
    private readonly writer: SerialWriter,
  ) {}

  async list(ensembleId: string): Promise<DateResponse[]> {
    const rows = await this.dates.find({
      where: { ensembleId, deletedAt: IsNull() },
      order: { at: 'DESC' },
      take: LISTED_DATES,
    });
    return rows.map(dateResponse).reverse();
  }

  /** What others changed since `base` stays; without it the date is as it is sent. */
  async save(ensembleId: string, id: string, { base, ...sent }: KeepDateRequest): Promise<DateResponse> {
    if (!(await this.ensembles.existsBy({ id: ensembleId }))) throw notFound('ensemble');
    return this.writer.run(async (manager) => {
      const known = await manager.findOneBy(DateEntity, { id });
      if (known && known.ensembleId !== ensembleId) throw alreadyExists('date');
      const details = base && known ? mergedDate(base, sent, known.details) : sent;
      const row = { id, ensembleId, at: details.at, details, deletedAt: null };
      await manager.upsert(DateEntity, row, ['id']);
      return dateResponse(row);
    });
  }

  async remove(ensembleId: string, id: string): Promise<void> {
    const { affected } = await this.writer.run((manager) =>
      manager.update(
        DateEntity,
        { id, ensembleId, deletedAt: IsNull() },
        { deletedAt: new Date().toISOString() },
      ),
    );
    if (!affected) throw notFound('date');
  }
}

function dateResponse({ id, details }: Pick<DateEntity, 'id' | 'details'>): DateResponse {
  return { ...details, id };
}

@ApiTags('season')
@Controller('api/ensembles/:ensembleId/dates')
class SeasonController {
  constructor(private readonly season: SeasonService) {}

  @Get()
  @ApiOperation({ summary: 'Rehearsals and concerts, in order' })
  list(@uuidParam('ensembleId') ensembleId: string) {
    return this.season.list(ensembleId);
  }

  @Put(':dateId')
  @ApiOperation({ summary: 'Keep a rehearsal or a concert, its plan and what was done, or change it' })
  @ApiBody({ schema: { $ref: '#/components/schemas/KeepDateRequest' } })
  save(
    @uuidParam('ensembleId') ensembleId: string,
    @uuidParam('dateId') dateId: string,
    @Body() request: KeepDateRequest,
  ) {
    return this.season.save(ensembleId, dateId, request);
  }

  @Delete(':dateId')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take a date away; keeping it again brings it back' })
  remove(@uuidParam('ensembleId') ensembleId: string, @uuidParam('dateId') dateId: string) {
    return this.season.remove(ensembleId, dateId);
  }
}

@Module({ imports: [DatabaseModule], controllers: [SeasonController], providers: [SeasonService] })
export class SeasonModule {}
