import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { LoggerService } from '@nestjs/common';
import { pino, type Logger } from 'pino';
import { LogFile } from './logFile.ts';

const MOST_LOG_BYTES = 10 * 1024 * 1024;
const OLDER_LOGS = 3;

/**
 * Structured logs, one JSON object a line, in `server.jsonl` of the data folder; three older files are kept. Where they
 * cannot be written the server goes on without.
 */
export function fileLogger(dataFolder: string): Logger {
  const folder = join(dataFolder, 'log');
  try {
    mkdirSync(folder, { recursive: true });
  } catch {
    // The disk is full or forbidden: whoever starts the server is told by the database.
  }
  const file = new LogFile(join(folder, 'server.jsonl'), {
    mostBytes: MOST_LOG_BYTES,
    olderFiles: OLDER_LOGS,
  });
  return pino({ base: undefined, timestamp: pino.stdTimeFunctions.isoTime }, file);
}

/** Nest's own messages in the same log. */
export class NestPinoLogger implements LoggerService {
  constructor(private readonly logger: Logger) {}

  log(message: unknown, context?: string): void {
    this.logger.info({ context }, String(message));
  }

  warn(message: unknown, context?: string): void {
    this.logger.warn({ context }, String(message));
  }

  error(error: unknown, ...rest: unknown[]): void {
    const context = rest.at(-1);
    this.logger.error({ context, err: error instanceof Error ? error : undefined }, String(error));
  }
}
