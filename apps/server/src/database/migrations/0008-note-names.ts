import type { MigrationInterface, QueryRunner } from 'typeorm';

/** In whose English an ensemble names notes: the quarter's family, or the crotchet's. */
export class NoteNames1800000000000 implements MigrationInterface {
  readonly name = 'NoteNames1800000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE ensembles ADD COLUMN note_names TEXT NOT NULL DEFAULT 'quarter' CHECK (note_names IN ('quarter', 'crotchet'))`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE ensembles DROP COLUMN note_names`);
  }
}
