/** A whole copy of the server's database. */
export interface BackupResponse {
  readonly name: string;
  /** ISO 8601, UTC. */
  readonly madeAt: string;
  readonly reason: 'daily' | 'by-hand' | 'before-migration' | 'before-restore';
  readonly bytes: number;
}
