import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Pieces1764000000000 implements MigrationInterface {
  readonly name = 'Pieces1764000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE ensembles (
        id TEXT PRIMARY KEY NOT NULL,
        name TEXT NOT NULL,
        place TEXT NOT NULL
      ) STRICT`);
    await runner.query(`
      CREATE TABLE pieces (
        id TEXT PRIMARY KEY NOT NULL,
        ensemble_id TEXT NOT NULL REFERENCES ensembles (id) ON DELETE RESTRICT,
        shelf_order INTEGER NOT NULL
      ) STRICT`);
    await runner.query(`CREATE INDEX pieces_of_ensemble ON pieces (ensemble_id, shelf_order)`);
    await runner.query(`
      CREATE TABLE revisions (
        id TEXT PRIMARY KEY NOT NULL,
        piece_id TEXT NOT NULL REFERENCES pieces (id) ON DELETE RESTRICT,
        revision INTEGER NOT NULL CHECK (revision >= 1),
        saved_at TEXT NOT NULL,
        document TEXT NOT NULL CHECK (json_valid(document)),
        edits TEXT NOT NULL CHECK (json_valid(edits)),
        CONSTRAINT revisions_piece_revision UNIQUE (piece_id, revision)
      ) STRICT`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE revisions`);
    await runner.query(`DROP TABLE pieces`);
    await runner.query(`DROP TABLE ensembles`);
  }
}
