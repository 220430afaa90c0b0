import { Module } from '@nestjs/common';
import { DatabaseModule } from '../database/database.module.ts';
import { PiecesController } from './pieces.controller.ts';
import { PiecesService } from './pieces.service.ts';

@Module({
  imports: [DatabaseModule],
  controllers: [PiecesController],
  providers: [PiecesService],
  exports: [PiecesService],
})
export class PiecesModule {}
