import { Body, Controller, Get, Injectable, Module, Post, Put } from '@nestjs/common';
import { uuidParam } from '../http/uuidParam.ts';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import { InjectRepository } from '@nestjs/typeorm';
import { CreateEnsembleRequest, UpdateEnsembleRequest, type EnsembleResponse } from '@anchorbeat/contract';
import { In, Repository } from 'typeorm';
import { Needs, NeedsAccount, Who } from '../accounts/access.guard.ts';
import type { AccountIdentity } from '../accounts/access.service.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { EnsembleEntity } from '../database/entities.ts';
import { MemberEntity } from '../database/peopleEntities.ts';
import { SerialWriter } from '../database/connection.ts';
import { alreadyExists, forbidden, notFound } from '../problems/problemException.ts';

@Injectable()
class EnsemblesService {
  constructor(
    @InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>,
    private readonly writer: SerialWriter,
  ) {}

  list(ids: readonly string[]): Promise<EnsembleResponse[]> {
    return this.ensembles.find({ where: { id: In([...ids]) }, order: { name: 'ASC' } });
  }

  /** A further ensemble; whoever makes it directs it. */
  async create(
    { id, name, place, sections, noteNames = 'quarter' }: CreateEnsembleRequest,
    accountId: string,
  ): Promise<EnsembleResponse> {
    if (await this.ensembles.existsBy({ id })) throw alreadyExists('ensemble');
    const row = { id, name, place, sections, noteNames };
    await this.writer.run(async (manager) => {
      await manager.insert(EnsembleEntity, row);
      await manager.insert(MemberEntity, { ensembleId: id, accountId, role: 'director' });
    });
    return row;
  }

  async update(id: string, request: UpdateEnsembleRequest): Promise<EnsembleResponse> {
    const kept = await this.ensembles.findOneBy({ id });
    if (!kept) throw notFound('ensemble');
    const { name, place, sections, noteNames = kept.noteNames } = request;
    const named = { name, place, sections, noteNames };
    await this.writer.run((manager) => manager.update(EnsembleEntity, { id }, named));
    return { id, ...named };
  }
}

@ApiTags('ensembles')
@Controller('api/ensembles')
class EnsemblesController {
  constructor(private readonly ensembles: EnsemblesService) {}

  @Get()
  @NeedsAccount()
  @ApiOperation({ summary: 'The ensembles you lead' })
  list(@Who() who: AccountIdentity) {
    return this.ensembles.list([...who.roles.keys()]);
  }

  @Post()
  @NeedsAccount()
  @ApiOperation({ summary: 'Make a further ensemble, which you then direct' })
  @ApiBody({ schema: { $ref: '#/components/schemas/CreateEnsembleRequest' } })
  create(@Who() who: AccountIdentity, @Body() request: CreateEnsembleRequest) {
    if (![...who.roles.values()].includes('director'))
      throw forbidden('A director of an ensemble here makes further ones; ask one');
    return this.ensembles.create(request, who.accountId);
  }

  @Put(':ensembleId')
  @Needs('keepMembers')
  @ApiOperation({ summary: 'Name, place, sections and note names of an ensemble' })
  @ApiBody({ schema: { $ref: '#/components/schemas/UpdateEnsembleRequest' } })
  update(@uuidParam('ensembleId') id: string, @Body() request: UpdateEnsembleRequest) {
    return this.ensembles.update(id, request);
  }
}

@Module({
  imports: [DatabaseModule],
  controllers: [EnsemblesController],
  providers: [EnsemblesService],
})
export class EnsemblesModule {}
