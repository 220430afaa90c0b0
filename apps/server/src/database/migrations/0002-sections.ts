import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The sections an ensemble has, as a JSON list of names. */
export class Sections1795500000000 implements MigrationInterface {
  readonly name = 'Sections1795500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE ensembles ADD COLUMN sections TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(sections))`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE ensembles DROP COLUMN sections`);
  }
}
