import { join } from 'node:path';
import { Module, type DynamicModule } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { ThrottlerModule } from '@nestjs/throttler';
import { TypeOrmModule } from '@nestjs/typeorm';
import { AccessGuard } from './accounts/access.guard.ts';
import { AccountsModule } from './accounts/accounts.module.ts';
import { ArchiveModule } from './archive/archive.module.ts';
import { BackupModule } from './backup/backup.module.ts';
import { DataFolderModule } from './database/dataFolder.module.ts';
import { DATABASE_NAME } from './database/dataFolder.ts';
import { dataSourceOptions } from './database/dataSource.ts';
import { DrillsModule } from './drills/drills.module.ts';
import { EnsemblesModule } from './ensembles/ensembles.module.ts';
import { FilesModule } from './files/files.module.ts';
import { HealthModule } from './health/health.module.ts';
import { ReportsModule } from './reports/reports.module.ts';
import { PiecesModule } from './pieces/pieces.module.ts';
import { RequestThrottler } from './http/requestThrottler.ts';
import { SeasonModule } from './season/season.module.ts';
import { RoomsModule } from './rooms/rooms.module.ts';

const REQUESTS_PER_SECOND = 300;

@Module({})
export class AppModule {
  static with(dataFolder: string): DynamicModule {
    const databaseFile = join(dataFolder, DATABASE_NAME);
    return {
      module: AppModule,
      imports: [
        TypeOrmModule.forRoot({ ...dataSourceOptions(databaseFile), retryAttempts: 0 }),
        DataFolderModule.with(dataFolder),
        ThrottlerModule.forRoot([{ ttl: 1000, limit: REQUESTS_PER_SECOND }]),
        AccountsModule,
        RoomsModule,
        SeasonModule,
        PiecesModule,
        EnsemblesModule,
        DrillsModule,
        FilesModule,
        HealthModule,
        ReportsModule,
        BackupModule,
        ArchiveModule,
      ],
      providers: [
        { provide: APP_GUARD, useClass: RequestThrottler },
        { provide: APP_GUARD, useClass: AccessGuard },
      ],
    };
  }
}
