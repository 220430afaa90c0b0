import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Drills kept with a piece, and the log of what was run. */
export class DrillsAndRuns1795600000000 implements MigrationInterface {
  readonly name = 'DrillsAndRuns1795600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE drills (
        id TEXT PRIMARY KEY NOT NULL,
        piece_id TEXT NOT NULL REFERENCES pieces (id) ON DELETE RESTRICT,
        settings TEXT NOT NULL CHECK (json_valid(settings)),
        saved_at TEXT NOT NULL,
        deleted_at TEXT
      ) STRICT`);
    await runner.query(`CREATE INDEX drills_of_piece ON drills (piece_id)`);
    await runner.query(`
      CREATE TABLE runs (
        id TEXT PRIMARY KEY NOT NULL,
        piece_id TEXT NOT NULL REFERENCES pieces (id) ON DELETE RESTRICT,
        started_at TEXT NOT NULL,
        result TEXT NOT NULL CHECK (json_valid(result)),
        deleted_at TEXT
      ) STRICT`);
    await runner.query(`CREATE INDEX runs_of_piece ON runs (piece_id, started_at)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE runs`);
    await runner.query(`DROP TABLE drills`);
  }
}
