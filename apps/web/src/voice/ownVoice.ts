import { ownRecording, type OwnWord, type RecordedWords } from '@anchorbeat/audio';
import { openDB, type IDBPDatabase } from 'idb';
import { keptOwnNames } from '../sound/ownNames.ts';

const STORE = 'words';

/** Words in somebody's own voice, kept in this browser and nowhere else. What fails rejects. */
class OwnVoice {
  private opened: Promise<IDBPDatabase> | null = null;

  async words(): Promise<OwnWord[]> {
    return (await (await this.open()).getAll(STORE)) as OwnWord[];
  }

  async recording(): Promise<RecordedWords> {
    return ownRecording(await this.words());
  }

  async keep(word: OwnWord): Promise<void> {
    await (await this.open()).put(STORE, word);
    await this.tellNames();
  }

  async remove(name: string): Promise<void> {
    await (await this.open()).delete(STORE, name);
    await this.tellNames();
  }

  private async tellNames(): Promise<void> {
    keptOwnNames.set((await this.words()).map(({ name }) => name));
  }

  private open(): Promise<IDBPDatabase> {
    this.opened ??= openDB('anchorbeat-voice', 1, {
      upgrade: (database) => void database.createObjectStore(STORE, { keyPath: 'name' }),
    });
    return this.opened;
  }
}

export const ownVoice = new OwnVoice();
