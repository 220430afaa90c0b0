import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ENTITIES } from '../database/dataSource.ts';
import { SerialWriter } from '../database/serialWriter.ts';
import { PiecesController } from './pieces.controller.ts';
import { PiecesService } from './pieces.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature(ENTITIES)],
  controllers: [PiecesController],
  providers: [PiecesService, SerialWriter],
  exports: [SerialWriter],
})
export class PiecesModule {}
