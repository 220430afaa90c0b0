import { Inject, Injectable, Logger } from '@nestjs/common';
import { DATA_FOLDER, wayBack } from '../database/dataFolder.ts';
import { DamagedError } from './copyDatabase.ts';

/**
 * Whether the database that is in use is whole, as far as is known: whatever met damage in it says so, and every backup
 * reads it from end to end.
 */
@Injectable()
export class Soundness {
  private readonly logger = new Logger('Soundness');
  private found: string | null = null;

  constructor(@Inject(DATA_FOLDER) private readonly dataFolder: string) {}

  /** What is wrong with it, and the way back; null where nothing is known to be. */
  get damage(): string | null {
    return this.found && `${this.found}. ${wayBack(this.dataFolder)}`;
  }

  /** Notes damage that was met; gives what to do about it. */
  met(error: Error): string {
    if (this.found === null) this.logger.error(`${error.message}. ${wayBack(this.dataFolder)}`);
    this.found = error.message;
    return wayBack(this.dataFolder);
  }

  /** The result of some copying of the whole database, noted. */
  async watched<T>(copying: Promise<T>): Promise<T> {
    try {
      const result = await copying;
      this.found = null;
      return result;
    } catch (error) {
      if (error instanceof DamagedError) this.met(error);
      throw error;
    }
  }
}
