import { mkdirSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { LoggerService } from '@nestjs/common';
import { pino, type Logger } from 'pino';

const MAX_LOG_BYTES = 10 * 1024 * 1024;

/** Structured logs, one JSON object a line, in `server.jsonl` of the data folder; one older file is kept. */
export function fileLogger(dataFolder: string): Logger {
  const folder = join(dataFolder, 'log');
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'server.jsonl');
  const size = statSync(file, { throwIfNoEntry: false })?.size ?? 0;
  if (size > MAX_LOG_BYTES) renameSync(file, `${file}.old`);
  return pino(
    { base: undefined, timestamp: pino.stdTimeFunctions.isoTime },
    pino.destination({ dest: file, sync: false }),
  );
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
