import { Inject, Injectable, Logger } from '@nestjs/common';
import { DATA_FOLDER, wayBack } from '../database/dataFolder.ts';
import { DamagedError } from './copyDatabase.ts';

/** Whether the database that is in use was whole when it was last read from end to end, as every backup does. */
@Injectable()
export class Soundness {
  private readonly logger = new Logger('Soundness');
  private found: string | null = null;

  constructor(@Inject(DATA_FOLDER) private readonly dataFolder: string) {}

  /** What is wrong with it, and the way back; null where nothing is known to be. */
  get damage(): string | null {
    return this.found && `${this.found}. ${wayBack(this.dataFolder)}`;
  }

  /** The result of some copying of the whole database, noted. */
  async watched<T>(copying: Promise<T>): Promise<T> {
    try {
      const result = await copying;
      this.found = null;
      return result;
    } catch (error) {
      if (error instanceof DamagedError) {
        this.found = error.message;
        this.logger.error(this.damage);
      }
      throw error;
    }
  }
}
