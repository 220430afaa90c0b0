import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Answer } from '@anchorbeat/contract';
import { ProblemException } from '../problems/problemException.ts';
import { sqliteProblemMaybe } from '../problems/sqliteProblem.ts';

/** Answers everything that goes wrong on a socket with its reason, to whoever said what caused it. */
@Catch()
export class AnswerFilter implements ExceptionFilter {
  private readonly logger = new Logger('Room');

  catch(error: unknown, host: ArgumentsHost): void {
    const answer: Answer = { ok: false, detail: this.detailOf(error) };
    const reply = host.getArgs<unknown[]>().find((argument) => typeof argument === 'function');
    (reply as ((answer: Answer) => void) | undefined)?.(answer);
  }

  private detailOf(error: unknown): string {
    if (error instanceof ProblemException) return error.problem.detail;
    const sqlite = sqliteProblemMaybe(error);
    if (sqlite) return sqlite.detail;
    if (error instanceof HttpException) return error.message;
    this.logger.error(error);
    return 'The server met an error it did not expect; nothing of the room was changed';
  }
}
