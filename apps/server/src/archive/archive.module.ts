import { join } from 'node:path';
import { Readable } from 'node:stream';
import {
  Controller,
  Get,
  HttpCode,
  Inject,
  Module,
  Post,
  Query,
  Req,
  Res,
  StreamableFile,
} from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { ApiBody, ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { ArchivePreview } from '@anchorbeat/contract';
import { fileNameOf } from '@anchorbeat/formats';
import type { Request, Response } from 'express';
import { Repository } from 'typeorm';
import { Needs, NeedsAccount, Who } from '../accounts/access.guard.ts';
import type { AccountIdentity } from '../accounts/access.service.ts';
import { backUp } from '../backup/copyDatabase.ts';
import { SerialWriter } from '../database/connection.ts';
import { DATA_FOLDER, DATABASE_NAME } from '../database/dataFolder.ts';
import { EnsembleEntity } from '../database/entities.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { ownBytes, whenGone } from '../files/fileTransfer.ts';
import { FilesModule } from '../files/files.module.ts';
import { FilesService } from '../files/files.service.ts';
import { uuidParam } from '../http/uuidParam.ts';
import { forbidden, invalid, notFound } from '../problems/problemException.ts';
import type { Archive } from './archiveRows.ts';
import { planRestore } from './planRestore.ts';
import { restoreArchive } from './restoreArchive.ts';
import { ArchiveError } from './unpackArchive.ts';

/** A whole ensemble as one file, and the way back. */
@ApiTags('archives')
@Controller('api')
class ArchivesController {
  constructor(
    @Inject(DATA_FOLDER) private readonly dataFolder: string,
    @InjectRepository(EnsembleEntity) private readonly ensembles: Repository<EnsembleEntity>,
    private readonly files: FilesService,
    private readonly writer: SerialWriter,
  ) {}

  @Get('ensembles/:ensembleId/archive')
  @Needs('keepMembers')
  @ApiOperation({
    summary: 'Everything of an ensemble as one zip: pieces with all revisions, drills, log, takes, plans',
  })
  async write(
    @uuidParam('ensembleId') ensembleId: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const ensemble = await this.ensembles.findOneBy({ id: ensembleId });
    if (!ensemble) throw notFound('ensemble');
    const file = join(this.dataFolder, DATABASE_NAME);
    const { parts } = await this.files.archive(file, ensembleId, whenGone(response));
    const fileName = `${fileNameOf(ensemble.name)} ${new Date().toISOString().slice(0, 10)}.anchorbeat.zip`;
    return new StreamableFile(Readable.from(parts, { objectMode: false }), {
      type: 'application/zip',
      disposition: `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
    });
  }

  @Post('archives/look')
  @NeedsAccount()
  @HttpCode(200)
  @ApiOperation({ summary: 'What bringing an archive back would change. Nothing is changed' })
  @ApiConsumes('application/octet-stream')
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  async look(
    @Who() who: AccountIdentity,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ArchivePreview> {
    const archive = await this.archiveIn(request, response, who);
    return this.writer.alone((handle) => Promise.resolve(planRestore(handle, archive).preview));
  }

  @Post('archives/restore')
  @NeedsAccount()
  @HttpCode(200)
  @ApiOperation({ summary: 'Bring an archive back, if it still does what was looked at (its digest)' })
  @ApiConsumes('application/octet-stream')
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  async restore(
    @Who() who: AccountIdentity,
    @Query('digest') digest: unknown,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<ArchivePreview> {
    if (typeof digest !== 'string' || !/^[0-9a-f]{64}$/.test(digest))
      throw invalid([
        { message: 'Look at the archive first, and give the digest of what was shown', field: 'digest' },
      ]);
    const archive = await this.archiveIn(request, response, who);
    return this.writer.alone(async (handle) => {
      await backUp(this.dataFolder, 'before-restore');
      try {
        return restoreArchive(handle, archive, { digest, leaderId: who.accountId });
      } catch (error) {
        if (error instanceof ArchiveError) throw invalid([{ message: error.message, field: 'file' }]);
        throw error;
      }
    });
  }

  /** The archive that was sent, if whoever sent it directs its ensemble, or may make a further one. */
  private async archiveIn(request: Request, response: Response, who: AccountIdentity): Promise<Archive> {
    const bytes: unknown = request.body;
    if (!(bytes instanceof Uint8Array))
      throw invalid([{ message: 'Send the archive itself as application/octet-stream', field: 'file' }]);
    if (![...who.roles.values()].includes('director'))
      throw forbidden('A director of an ensemble here brings archives back; ask one');
    const result = await this.files.run({ kind: 'readArchive', bytes: ownBytes(bytes) }, whenGone(response));
    if (result.kind !== 'readArchive') throw new Error('reading gave no archive');
    const { archive } = result;
    const isHere = await this.ensembles.existsBy({ id: archive.ensemble.id });
    if (isHere && who.roles.get(archive.ensemble.id) !== 'director')
      throw forbidden(
        'This ensemble is on this server already: one of its directors brings its archive back',
      );
    return archive;
  }
}

@Module({ imports: [DatabaseModule, FilesModule], controllers: [ArchivesController] })
export class ArchiveModule {}
