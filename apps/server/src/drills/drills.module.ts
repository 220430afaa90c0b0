import { Body, Controller, Delete, Get, HttpCode, Module, ParseBoolPipe, Put, Query } from '@nestjs/common';
import { uuidParam } from '../http/uuidParam.ts';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import { LogRunRequest, SaveDrillRequest } from '@anchorbeat/contract';
import { DatabaseModule } from '../database/database.module.ts';
import { DrillsService } from './drills.service.ts';
import { PlacesNow } from './placesNow.ts';

@ApiTags('drills')
@Controller('api/pieces/:pieceId')
class DrillsController {
  constructor(private readonly drills: DrillsService) {}

  @Get('drills')
  @ApiOperation({ summary: 'Drills kept with a piece' })
  listDrills(@uuidParam('pieceId') pieceId: string) {
    return this.drills.listDrills(pieceId);
  }

  @Put('drills/:drillId')
  @ApiOperation({ summary: 'Keep a drill, or change it' })
  @ApiBody({ schema: { $ref: '#/components/schemas/SaveDrillRequest' } })
  saveDrill(
    @uuidParam('pieceId') pieceId: string,
    @uuidParam('drillId') drillId: string,
    @Body() request: SaveDrillRequest,
  ) {
    return this.drills.saveDrill(pieceId, drillId, request);
  }

  @Delete('drills/:drillId')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take a drill away; keeping it again brings it back' })
  removeDrill(@uuidParam('pieceId') pieceId: string, @uuidParam('drillId') drillId: string) {
    return this.drills.removeDrill(pieceId, drillId);
  }

  @Get('runs')
  @ApiOperation({ summary: 'The log of a piece, oldest first; takes without their single onsets' })
  listRuns(@uuidParam('pieceId') pieceId: string) {
    return this.drills.listRuns(pieceId);
  }

  @Get('runs/:runId')
  @ApiOperation({ summary: 'A run of the log with every onset of its take' })
  getRun(@uuidParam('pieceId') pieceId: string, @uuidParam('runId') runId: string) {
    return this.drills.getRun(pieceId, runId);
  }

  @Put('runs/:runId')
  @ApiOperation({
    summary: 'Log a run, or change its mark or note; with onlyNew, one that is logged stays as it is',
  })
  @ApiBody({ schema: { $ref: '#/components/schemas/LogRunRequest' } })
  logRun(
    @uuidParam('pieceId') pieceId: string,
    @uuidParam('runId') runId: string,
    @Body() request: LogRunRequest,
    @Query('onlyNew', new ParseBoolPipe({ optional: true })) onlyNew = false,
  ) {
    return this.drills.logRun(pieceId, runId, request, { onlyNew });
  }

  @Delete('runs/:runId')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take a run out of the log; logging it again brings it back' })
  removeRun(@uuidParam('pieceId') pieceId: string, @uuidParam('runId') runId: string) {
    return this.drills.removeRun(pieceId, runId);
  }
}

@Module({
  imports: [DatabaseModule],
  controllers: [DrillsController],
  providers: [DrillsService, PlacesNow],
})
export class DrillsModule {}
