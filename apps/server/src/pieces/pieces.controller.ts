import { Body, Controller, Get, HttpCode, Param, ParseIntPipe, Post, Put, Query } from '@nestjs/common';
import { uuidParam } from '../http/uuidParam.ts';
import { ApiBody, ApiOperation, ApiQuery, ApiTags } from '@nestjs/swagger';
import { CreatePieceRequest, SaveRevisionRequest, ShelvePieceRequest } from '@anchorbeat/contract';
import { NeedsAccount, Who } from '../accounts/access.guard.ts';
import type { AccountIdentity } from '../accounts/access.service.ts';
import { PiecesService } from './pieces.service.ts';

/** Above any revision there is. */
const NEWEST = Number.MAX_SAFE_INTEGER;

const pieceId = () => uuidParam('pieceId');

@ApiTags('pieces')
@Controller('api/pieces')
export class PiecesController {
  constructor(private readonly pieces: PiecesService) {}

  @Get()
  @NeedsAccount()
  @ApiOperation({ summary: 'Every piece of your ensembles with its newest revision' })
  list(@Who() who: AccountIdentity) {
    return this.pieces.list([...who.roles.keys()]);
  }

  @Put(':pieceId/shelf')
  @ApiOperation({ summary: 'Put a piece at a place of the shelf, set it aside or bring it back' })
  @ApiBody({ schema: { $ref: '#/components/schemas/ShelvePieceRequest' } })
  shelve(@pieceId() id: string, @Body() request: ShelvePieceRequest) {
    return this.pieces.shelve(id, request);
  }

  @Post()
  @ApiOperation({ summary: 'Make a piece; its first revision is 1' })
  @ApiBody({ schema: { $ref: '#/components/schemas/CreatePieceRequest' } })
  create(@Body() request: CreatePieceRequest) {
    return this.pieces.create(request);
  }

  @Get(':pieceId')
  @ApiOperation({ summary: 'The newest revision of a piece' })
  get(@pieceId() id: string) {
    return this.pieces.get(id);
  }

  @Get(':pieceId/revisions')
  @ApiOperation({ summary: 'What was saved when, newest first, a hundred at a time' })
  @ApiQuery({ name: 'before', required: false, description: 'the page of those before this revision' })
  history(
    @pieceId() id: string,
    @Query('before', new ParseIntPipe({ errorHttpStatusCode: 422, optional: true })) before = NEWEST,
  ) {
    return this.pieces.history(id, before);
  }

  @Get(':pieceId/revisions/:revision')
  @ApiOperation({ summary: 'One revision of a piece' })
  revision(
    @pieceId() id: string,
    @Param('revision', new ParseIntPipe({ errorHttpStatusCode: 404 })) revision: number,
  ) {
    return this.pieces.revision(id, revision);
  }

  @Post(':pieceId/revisions')
  @HttpCode(201)
  @ApiOperation({ summary: 'Save the next revision; refused as stale (409) when another came first' })
  @ApiBody({ schema: { $ref: '#/components/schemas/SaveRevisionRequest' } })
  save(@pieceId() id: string, @Body() request: SaveRevisionRequest) {
    return this.pieces.save(id, request);
  }
}
