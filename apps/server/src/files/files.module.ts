import { Readable } from 'node:stream';
import {
  Controller,
  Get,
  HttpCode,
  Module,
  Param,
  Post,
  Query,
  Req,
  Res,
  StreamableFile,
} from '@nestjs/common';
import { uuidParam } from '../http/uuidParam.ts';
import { ApiBody, ApiConsumes, ApiOperation, ApiQuery, ApiTags } from '@nestjs/swagger';
import { SAMPLE_BITS, SAMPLE_RATES, type SoundWishes } from '@anchorbeat/audio';
import { FASTEST_PERCENT, SLOWEST_PERCENT } from '@anchorbeat/core';
import { FILE_FORMATS, fileNameOf } from '@anchorbeat/formats';
import type { Request, Response } from 'express';
import { PiecesModule } from '../pieces/pieces.module.ts';
import { PiecesService } from '../pieces/pieces.service.ts';
import { invalid, notFound } from '../problems/problemException.ts';
import { ownBytes, whenGone } from './fileTransfer.ts';
import { FilesService } from './files.service.ts';
import { NeedsAccount } from '../accounts/access.guard.ts';

@ApiTags('files')
@Controller('api')
class FilesController {
  constructor(
    private readonly files: FilesService,
    private readonly pieces: PiecesService,
  ) {}

  @Post('files/read')
  @NeedsAccount()
  @HttpCode(200)
  @ApiOperation({
    summary: 'What a file holds: its piece, what was guessed and what was left out. Nothing is saved',
  })
  @ApiConsumes('application/octet-stream')
  @ApiQuery({ name: 'name', description: 'File name: its ending tells the format' })
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  async read(
    @Query('name') name: string,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ) {
    const bytes: unknown = request.body;
    if (typeof name !== 'string' || name === '')
      throw invalid([{ message: 'Say the name of the file: ?name=score.musicxml', field: 'name' }]);
    if (!(bytes instanceof Uint8Array))
      throw invalid([{ message: 'Send the file itself as application/octet-stream', field: 'file' }]);
    const work = { kind: 'read', name: name.slice(-200), bytes: ownBytes(bytes) } as const;
    const result = await this.files.run(work, whenGone(response));
    if (result.kind !== 'piece') throw new Error('reading gave no piece');
    return { piece: result.piece, notes: result.notes };
  }

  @Get('pieces/:pieceId/files/:format')
  @ApiOperation({ summary: 'A piece as a file: piece-json, bar-table, words, musicxml, midi or wav' })
  @ApiQuery({ name: 'rate', required: false, description: 'of a WAV: 44100, 48000 or 96000' })
  @ApiQuery({ name: 'bits', required: false, description: 'of a WAV: 16 or 24' })
  @ApiQuery({ name: 'percent', required: false, description: 'of a WAV: its tempo, of the printed one' })
  @ApiQuery({ name: 'click', required: false, description: 'of a WAV: pulse or subdivision' })
  async write(
    @uuidParam('pieceId') pieceId: string,
    @Param('format') formatId: string,
    @Query() query: Readonly<Record<string, unknown>>,
    @Res({ passthrough: true }) response: Response,
  ) {
    const format = FILE_FORMATS.find(({ id }) => id === formatId);
    if (!format && formatId !== 'wav') throw notFound('format');
    const { piece } = await this.pieces.get(pieceId);
    const signal = whenGone(response);
    const fileName = `${fileNameOf(piece.title)}${format?.endings[0] ?? '.wav'}`;
    const disposition = `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`;
    if (!format) {
      const { lengthBytes, parts } = await this.files.render(piece, soundWishes(query), signal);
      return new StreamableFile(Readable.from(parts, { objectMode: false }), {
        type: 'audio/wav',
        disposition,
        ...(lengthBytes !== null && { length: lengthBytes }),
      });
    }
    const result = await this.files.run({ kind: 'write', format: format.id, piece }, signal);
    if (result.kind !== 'file') throw new Error('writing gave no file');
    return new StreamableFile(result.bytes, { type: format.mediaType, disposition });
  }
}

function soundWishes(query: Readonly<Record<string, unknown>>): SoundWishes {
  const sampleRate = SAMPLE_RATES.find((rate) => rate === Number(query['rate'] ?? 44_100));
  const bits = SAMPLE_BITS.find((each) => each === Number(query['bits'] ?? 16));
  const percent = Number(query['percent'] ?? 100);
  const clickOn = (['pulse', 'subdivision'] as const).find((each) => each === (query['click'] ?? 'pulse'));
  if (!sampleRate) throw invalid([{ message: 'rate is 44100, 48000 or 96000', field: 'rate' }]);
  if (!bits) throw invalid([{ message: 'bits are 16 or 24', field: 'bits' }]);
  if (!clickOn) throw invalid([{ message: 'click is pulse or subdivision', field: 'click' }]);
  if (!(percent >= SLOWEST_PERCENT && percent <= FASTEST_PERCENT))
    throw invalid([
      { message: `percent lies from ${SLOWEST_PERCENT} to ${FASTEST_PERCENT}`, field: 'percent' },
    ]);
  return { format: 'wav', sampleRate, bits, percent, clickOn, spoken: 'nothing', channels: 'one' };
}

@Module({
  imports: [PiecesModule],
  controllers: [FilesController],
  providers: [FilesService],
  exports: [FilesService],
})
export class FilesModule {}
