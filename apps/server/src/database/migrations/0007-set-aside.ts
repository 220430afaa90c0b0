import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Pieces that are set aside: off the shelf, with everything they have, and a way back. */
export class SetAside1799000000000 implements MigrationInterface {
  readonly name = 'SetAside1799000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE pieces ADD COLUMN is_set_aside INTEGER NOT NULL DEFAULT 0 CHECK (is_set_aside IN (0, 1))`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE pieces DROP COLUMN is_set_aside`);
  }
}
