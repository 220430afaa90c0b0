import { Body, Controller, Get, Injectable, Module, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import { InjectRepository } from '@nestjs/typeorm';
import { UpdateEnsembleRequest, type EnsembleResponse } from '@anchorbeat/contract';
import { In, Repository } from 'typeorm';
import { Needs, NeedsAccount, Who } from '../accounts/access.guard.ts';
import type { AccountIdentity } from '../accounts/access.service.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { EnsembleEntity } from '../database/entities.ts';
import { SerialWriter } from '../database/connection.ts';
import { notFound } from '../problems/problemException.ts';

@Injectable()
class EnsemblesService {
  constructor(
    @InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>,
    private readonly writer: SerialWriter,
  ) {}

  list(ids: readonly string[]): Promise<EnsembleResponse[]> {
    return this.ensembles.find({ where: { id: In([...ids]) }, order: { name: 'ASC' } });
  }

  async update(id: string, { name, place, sections }: UpdateEnsembleRequest): Promise<EnsembleResponse> {
    if (!(await this.ensembles.existsBy({ id }))) throw notFound('ensemble');
    const named = { name, place, sections };
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

  @Put(':ensembleId')
  @Needs('keepMembers')
  @ApiOperation({ summary: 'Name, place and sections of an ensemble' })
  @ApiBody({ schema: { $ref: '#/components/schemas/UpdateEnsembleRequest' } })
  update(
    @Param('ensembleId', new ParseUUIDPipe({ errorHttpStatusCode: 404 })) id: string,
    @Body() request: UpdateEnsembleRequest,
  ) {
    return this.ensembles.update(id, request);
  }
}

@Module({
  imports: [DatabaseModule],
  controllers: [EnsemblesController],
  providers: [EnsemblesService],
})
export class EnsemblesModule {}
