import { join } from 'node:path';
import {
  Controller,
  Get,
  HttpCode,
  Inject,
  Injectable,
  Logger,
  Module,
  Param,
  Post,
  type OnApplicationShutdown,
} from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { BackupResponse } from '@anchorbeat/contract';
import { NeedsServer } from '../accounts/access.guard.ts';
import { DATA_FOLDER } from '../database/dataFolder.ts';
import { DatabaseModule } from '../database/database.module.ts';
import { SerialWriter } from '../database/connection.ts';
import { notFound } from '../problems/problemException.ts';
import { BACKUP_FOLDER, listBackups, type BackupFile } from './backupFiles.ts';
import { backUp } from './copyDatabase.ts';
import { restoreRows } from './restoreDatabase.ts';
import { Soundness } from './soundness.ts';

const DAY_MS = 86_400_000;
const LOOKS_EVERY_MS = 3_600_000;

/** Whole copies of the database: one a day by itself, more when they are asked for, and the way back to each. */
@Injectable()
class BackupsService implements OnApplicationShutdown {
  private readonly logger = new Logger('Backups');
  private timer: NodeJS.Timeout | null = null;

  constructor(
    @Inject(DATA_FOLDER) private readonly dataFolder: string,
    private readonly writer: SerialWriter,
    private readonly soundness: Soundness,
  ) {}

  /** Begins to make the daily ones. */
  start(): void {
    this.timer = setInterval(() => void this.daily(), LOOKS_EVERY_MS);
    this.timer.unref();
    void this.daily();
  }

  onApplicationShutdown(): void {
    if (this.timer) clearInterval(this.timer);
  }

  list(): BackupResponse[] {
    return listBackups(this.dataFolder).map(response);
  }

  async make(): Promise<BackupResponse[]> {
    await this.soundness.watched(backUp(this.dataFolder, 'by-hand'));
    return this.list();
  }

  async restore(name: string): Promise<BackupResponse[]> {
    const backup = listBackups(this.dataFolder).find((known) => known.name === name);
    if (!backup) throw notFound('backup');
    // Nobody saves between the two: what was acknowledged is in what is kept.
    await this.writer.alone(async (handle) => {
      await backUp(this.dataFolder, 'before-restore', backup.name);
      await restoreRows(handle, join(this.dataFolder, BACKUP_FOLDER, backup.name));
    });
    return this.list();
  }

  private async daily(): Promise<void> {
    const newest = listBackups(this.dataFolder).find(({ reason }) => reason === 'daily');
    if (newest && Date.now() - newest.madeAt.getTime() < DAY_MS) return;
    try {
      await this.soundness.watched(backUp(this.dataFolder, 'daily'));
    } catch (error) {
      this.logger.error(error);
    }
  }
}

function response({ name, madeAt, reason, bytes }: BackupFile): BackupResponse {
  return { name, madeAt: madeAt.toISOString(), reason, bytes };
}

@ApiTags('backups')
@Controller('api/backups')
@NeedsServer()
class BackupsController {
  constructor(private readonly backups: BackupsService) {}

  @Get()
  @ApiOperation({ summary: 'The backups there are, newest first' })
  list() {
    return this.backups.list();
  }

  @Post()
  @ApiOperation({ summary: 'Make a backup now' })
  make() {
    return this.backups.make();
  }

  @Post(':name/restore')
  @HttpCode(200)
  @ApiOperation({ summary: 'Go back to a backup; what is there now is kept as one' })
  restore(@Param('name') name: string) {
    return this.backups.restore(name);
  }
}

@Module({
  imports: [DatabaseModule],
  controllers: [BackupsController],
  providers: [BackupsService, Soundness],
  exports: [Soundness],
})
export class BackupModule {
  constructor(private readonly backups: BackupsService) {}

  onApplicationBootstrap(): void {
    this.backups.start();
  }
}
