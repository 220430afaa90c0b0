import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Module,
  Param,
  ParseIntPipe,
  Post,
  Put,
  Req,
} from '@nestjs/common';
import { uuidParam } from '../http/uuidParam.ts';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import { JoinRequest, UpdateStandRequest } from '@anchorbeat/contract';
import type { Request } from 'express';
import { Needs, NeedsStand, Open, Who } from '../accounts/access.guard.ts';
import { AccessService, type Identity } from '../accounts/access.service.ts';
import { AccountsModule } from '../accounts/accounts.module.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { PiecesModule } from '../pieces/pieces.module.ts';
import { Addresses } from './addresses.ts';
import { Presence } from './presence.ts';
import { RoomsGateway } from './rooms.gateway.ts';
import { RoomsService } from './rooms.service.ts';
import { Siblings } from './siblings.ts';
import { Takes } from './takes.ts';

@ApiTags('rooms')
@Controller('api')
@Needs('keepRoom')
class RoomsController {
  constructor(
    private readonly rooms: RoomsService,
    private readonly access: AccessService,
  ) {}

  @Get('ensembles/:ensembleId/rooms')
  @ApiOperation({ summary: 'Rehearsals that can be joined now' })
  list(@uuidParam('ensembleId') ensembleId: string) {
    return this.rooms.list(ensembleId);
  }

  @Post('ensembles/:ensembleId/rooms')
  @ApiOperation({ summary: 'Open a rehearsal; it ends by itself after twelve hours' })
  create(@uuidParam('ensembleId') ensembleId: string, @Who() who: Identity) {
    return this.rooms.create(ensembleId, this.access.roleIn(who, ensembleId));
  }

  @Delete('rooms/:roomId')
  @HttpCode(204)
  @ApiOperation({ summary: 'End a rehearsal: every stand is told' })
  end(@uuidParam('roomId') roomId: string) {
    return this.rooms.end(roomId);
  }

  @Post('rooms/:roomId/code')
  @HttpCode(200)
  @ApiOperation({ summary: 'A new code; the old one opens nothing any more' })
  changeCode(@uuidParam('roomId') roomId: string) {
    return this.rooms.changeCode(roomId);
  }

  @Delete('rooms/:roomId/stands/:standId')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take a stand out of a rehearsal' })
  removeStand(@uuidParam('roomId') roomId: string, @uuidParam('standId') standId: string) {
    return this.rooms.removeStand(roomId, standId);
  }
}

@ApiTags('stands')
@Controller('api')
class StandsController {
  constructor(private readonly rooms: RoomsService) {}

  @Post('join')
  @Open()
  @HttpCode(200)
  @ApiOperation({ summary: 'Join a rehearsal by its code; without a section, ask which there are' })
  @ApiBody({ schema: { $ref: '#/components/schemas/JoinRequest' } })
  join(@Body() body: JoinRequest, @Req() request: Request) {
    return this.rooms.join(body, request.socket.remoteAddress ?? '');
  }

  @Put('stand')
  @NeedsStand()
  @HttpCode(204)
  @ApiOperation({ summary: 'Change the section or the name of this stand' })
  @ApiBody({ schema: { $ref: '#/components/schemas/UpdateStandRequest' } })
  update(@Who() who: Identity, @Body() body: UpdateStandRequest) {
    return who.kind === 'stand' ? this.rooms.updateStand(who.stand, body) : undefined;
  }

  @Get('stand/pieces/:sharedId/revisions/:revision')
  @NeedsStand()
  @ApiOperation({ summary: 'The piece this rehearsal works on, for its stands' })
  piece(
    @Who() who: Identity,
    @uuidParam('sharedId') pieceId: string,
    @Param('revision', new ParseIntPipe({ errorHttpStatusCode: 404 })) revision: number,
  ) {
    return who.kind === 'stand' ? this.rooms.sharedRevision(who.stand.roomId, pieceId, revision) : undefined;
  }
}

@Module({
  imports: [DatabaseModule, AccountsModule, PiecesModule],
  controllers: [RoomsController, StandsController],
  providers: [Addresses, Presence, RoomsService, RoomsGateway, Siblings, Takes],
  exports: [Addresses, Siblings],
})
export class RoomsModule {}
