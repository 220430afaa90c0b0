import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

export const BACKUP_FOLDER = 'backups';

/** Why a backup was made; it stands in its name. */
const BACKUP_REASONS = ['daily', 'by-hand', 'before-migration', 'before-restore'] as const;
export type BackupReason = (typeof BACKUP_REASONS)[number];

/** A whole copy of the database. */
export interface BackupFile {
  /** "2026-03-28T19-30-00-000Z.daily.sqlite" */
  readonly name: string;
  readonly madeAt: Date;
  readonly reason: BackupReason;
  readonly bytes: number;
}

const NAME = /^(\d{4}-\d{2}-\d{2})T(\d{2})-(\d{2})-(\d{2})-(\d{3})Z\.([a-z-]+)\.sqlite$/;

export function backupName(madeAt: Date, reason: BackupReason): string {
  return `${madeAt.toISOString().slice(0, 23).replaceAll(/[:.]/g, '-')}Z.${reason}.sqlite`;
}

/** The backups of a data folder, newest first. Files of any other name are not among them. */
export function listBackups(dataFolder: string): readonly BackupFile[] {
  const folder = join(dataFolder, BACKUP_FOLDER);
  return namesIn(folder)
    .flatMap((name) => {
      const read = readNameMaybe(name);
      const bytes = read ? (statSync(join(folder, name), { throwIfNoEntry: false })?.size ?? 0) : 0;
      return read && bytes > 0 ? [{ name, bytes, ...read }] : [];
    })
    .sort((a, b) => b.madeAt.getTime() - a.madeAt.getTime());
}

/** The path of the newest backup; null where there is none. */
export function newestBackupMaybe(dataFolder: string): string | null {
  const [newest] = listBackups(dataFolder);
  return newest ? join(dataFolder, BACKUP_FOLDER, newest.name) : null;
}

function namesIn(folder: string): readonly string[] {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
}

function readNameMaybe(name: string): Pick<BackupFile, 'madeAt' | 'reason'> | null {
  const [, day, hour, minute, second, milliseconds, said] = NAME.exec(name) ?? [];
  const reason = BACKUP_REASONS.find((each) => each === said);
  const madeAt = new Date(`${day}T${hour}:${minute}:${second}.${milliseconds}Z`);
  return reason && !Number.isNaN(madeAt.getTime()) ? { madeAt, reason } : null;
}

const DAYS = 7;
const WEEKS = 4;
const MONTHS = 12;
/** Backups that were made before something was changed, and by hand. */
const OTHERS = 10;

/**
 * Which backups may go: of the daily ones the newest of each of the last seven days, four weeks and twelve months that have
 * any are kept; of the others the newest ten.
 */
export function outdatedBackups(backups: readonly BackupFile[]): readonly BackupFile[] {
  const newestFirst = [...backups].sort((a, b) => b.madeAt.getTime() - a.madeAt.getTime());
  const daily = newestFirst.filter(({ reason }) => reason === 'daily');
  const kept = new Set([
    ...newestOfEach(daily, dayOf, DAYS),
    ...newestOfEach(daily, weekOf, WEEKS),
    ...newestOfEach(daily, monthOf, MONTHS),
    ...newestFirst.filter(({ reason }) => reason !== 'daily').slice(0, OTHERS),
  ]);
  return newestFirst.filter((backup) => !kept.has(backup));
}

function newestOfEach(
  newestFirst: readonly BackupFile[],
  spanOf: (date: Date) => string,
  most: number,
): readonly BackupFile[] {
  const bySpan = new Map<string, BackupFile>();
  for (const backup of newestFirst) {
    const span = spanOf(backup.madeAt);
    if (!bySpan.has(span)) bySpan.set(span, backup);
  }
  return [...bySpan.values()].slice(0, most);
}

const dayOf = (date: Date) => date.toISOString().slice(0, 10);
const monthOf = (date: Date) => date.toISOString().slice(0, 7);
const MONDAY_OFFSET_DAYS = 3;
const DAY_MS = 86_400_000;

/** Weeks from Monday to Sunday. */
function weekOf(date: Date): string {
  return String(Math.floor((date.getTime() / DAY_MS + MONDAY_OFFSET_DAYS) / 7));
}
