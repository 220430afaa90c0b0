import type { MigrationInterface, QueryRunner } from 'typeorm';

/** One row that is written to find out whether the database can be. */
export class Health1796000000000 implements MigrationInterface {
  readonly name = 'Health1796000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE health (id INTEGER PRIMARY KEY CHECK (id = 1), written_at TEXT NOT NULL) STRICT`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE health`);
  }
}
