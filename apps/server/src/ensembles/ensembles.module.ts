import { Controller, Get, Module } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { InjectRepository, TypeOrmModule } from '@nestjs/typeorm';
import type { EnsembleResponse } from '@anchorbeat/contract';
import { Repository } from 'typeorm';
import { EnsembleEntity } from '../database/entities.ts';

@ApiTags('ensembles')
@Controller('api/ensembles')
export class EnsemblesController {
  constructor(@InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>) {}

  @Get()
  @ApiOperation({ summary: 'Every ensemble' })
  list(): Promise<EnsembleResponse[]> {
    return this.ensembles.find({ order: { name: 'ASC' } });
  }
}

@Module({ imports: [TypeOrmModule.forFeature([EnsembleEntity])], controllers: [EnsemblesController] })
export class EnsemblesModule {}
