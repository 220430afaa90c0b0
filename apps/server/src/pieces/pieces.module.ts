import { Module } from '@nestjs/common';
import { DatabaseModule } from '../database/database.module.ts';
import { PiecesController } from './pieces.controller.ts';
import { PiecesService } from './pieces.service.ts';
import { SavedRevisions } from './savedRevisions.ts';

@Module({
  imports: [DatabaseModule],
  controllers: [PiecesController],
  providers: [PiecesService, SavedRevisions],
  exports: [PiecesService, SavedRevisions],
})
export class PiecesModule {}
