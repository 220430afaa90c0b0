import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Rehearsals and concerts of an ensemble, with what was planned and done. */
export class Season1798000000000 implements MigrationInterface {
  readonly name = 'Season1798000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE dates (
        id TEXT PRIMARY KEY NOT NULL,
        ensemble_id TEXT NOT NULL REFERENCES ensembles (id),
        at TEXT NOT NULL,
        details TEXT NOT NULL CHECK (json_valid(details)),
        deleted_at TEXT
      ) STRICT`);
    await runner.query(`CREATE INDEX dates_of_ensemble ON dates (ensemble_id, at)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE dates`);
  }
}
