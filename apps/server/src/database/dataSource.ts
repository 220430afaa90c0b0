import type { Database } from 'better-sqlite3';
import type { DataSourceOptions } from 'typeorm';
import {
  DateEntity,
  DrillEntity,
  EnsembleEntity,
  PieceEntity,
  RevisionEntity,
  RunEntity,
} from './entities.ts';
import { AccountEntity, MemberEntity, RoomEntity, SignInEntity, StandEntity } from './peopleEntities.ts';
import { Pieces1764000000000 } from './migrations/0001-pieces.ts';
import { Sections1795500000000 } from './migrations/0002-sections.ts';
import { Health1796000000000 } from './migrations/0004-health.ts';
import { DrillsAndRuns1795600000000 } from './migrations/0003-drills-and-runs.ts';
import { People1797000000000 } from './migrations/0005-people.ts';
import { Season1798000000000 } from './migrations/0006-season.ts';
import { SetAside1799000000000 } from './migrations/0007-set-aside.ts';
import { NoteNames1800000000000 } from './migrations/0008-note-names.ts';

const BUSY_TIMEOUT_MS = 5000;

export const ENTITIES = [
  EnsembleEntity,
  PieceEntity,
  RevisionEntity,
  DrillEntity,
  RunEntity,
  DateEntity,
  AccountEntity,
  MemberEntity,
  SignInEntity,
  RoomEntity,
  StandEntity,
];

const MIGRATIONS = [
  Pieces1764000000000,
  Sections1795500000000,
  DrillsAndRuns1795600000000,
  Health1796000000000,
  People1797000000000,
  Season1798000000000,
  SetAside1799000000000,
  NoteNames1800000000000,
];

/** In the order in which they are applied, as the database notes them. */
export const MIGRATION_NAMES = MIGRATIONS.map((migration) => new migration().name);

/** SQLite, made or migrated when it is opened. A save is on the disk before it is acknowledged. */
export function dataSourceOptions(databaseFile: string): DataSourceOptions {
  return {
    type: 'better-sqlite3',
    database: databaseFile,
    entities: ENTITIES,
    migrations: MIGRATIONS,
    migrationsRun: true,
    synchronize: false,
    prepareDatabase: (database: Database) => {
      database.pragma('journal_mode = WAL');
      database.pragma('synchronous = FULL');
      database.pragma('foreign_keys = ON');
      database.pragma(`busy_timeout = ${BUSY_TIMEOUT_MS}`);
    },
  };
}
