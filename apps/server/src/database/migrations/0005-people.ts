import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who leads which ensemble, where they are signed in, rooms and the stands in them. */
export class People1797000000000 implements MigrationInterface {
  readonly name = 'People1797000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE accounts (
        id TEXT PRIMARY KEY NOT NULL,
        name TEXT NOT NULL UNIQUE,
        display_name TEXT NOT NULL,
        password_hash TEXT,
        created_at TEXT NOT NULL
      ) STRICT`);
    await runner.query(`
      CREATE TABLE members (
        ensemble_id TEXT NOT NULL REFERENCES ensembles (id),
        account_id TEXT NOT NULL REFERENCES accounts (id) ON DELETE CASCADE,
        role TEXT NOT NULL CHECK (role IN ('director', 'coDirector')),
        PRIMARY KEY (ensemble_id, account_id)
      ) STRICT`);
    await runner.query(`
      CREATE TABLE sign_ins (
        id TEXT PRIMARY KEY NOT NULL,
        token_hash TEXT NOT NULL UNIQUE,
        account_id TEXT NOT NULL REFERENCES accounts (id) ON DELETE CASCADE,
        device TEXT NOT NULL,
        created_at TEXT NOT NULL,
        last_seen_at TEXT NOT NULL,
        expires_at TEXT NOT NULL
      ) STRICT`);
    await runner.query(`
      CREATE TABLE rooms (
        id TEXT PRIMARY KEY NOT NULL,
        ensemble_id TEXT NOT NULL REFERENCES ensembles (id),
        code TEXT NOT NULL,
        created_at TEXT NOT NULL,
        expires_at TEXT NOT NULL,
        ended_at TEXT,
        state TEXT NOT NULL CHECK (json_valid(state))
      ) STRICT`);
    await runner.query(`CREATE UNIQUE INDEX open_room_codes ON rooms (code) WHERE ended_at IS NULL`);
    await runner.query(`
      CREATE TABLE stands (
        id TEXT PRIMARY KEY NOT NULL,
        room_id TEXT NOT NULL REFERENCES rooms (id) ON DELETE CASCADE,
        token_hash TEXT NOT NULL UNIQUE,
        section TEXT NOT NULL,
        name TEXT NOT NULL,
        joined_at TEXT NOT NULL,
        revoked_at TEXT
      ) STRICT`);
    await runner.query(`CREATE INDEX stands_of_room ON stands (room_id)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['stands', 'rooms', 'sign_ins', 'members', 'accounts'])
      await runner.query(`DROP TABLE ${table}`);
  }
}
