import type { Answer } from './sending.ts';

/**
 * What the server has not acknowledged yet, each by its id: kept in the browser over reloads, and sent one after the other. Where
 * the browser's storage is full or forbidden it lasts as long as the page.
 */
export class Outbox<Item> {
  private readonly unstored = new Map<string, Item>();
  private sending: Promise<boolean> | null = null;

  /** `key` is where it is kept in the browser. */
  constructor(private readonly key: string) {}

  items(): Readonly<Record<string, Item>> {
    return { ...this.stored(), ...Object.fromEntries(this.unstored) };
  }

  put(id: string, item: Item): void {
    this.unstored.delete(id);
    if (!this.store({ ...this.stored(), [id]: item })) this.unstored.set(id, item);
  }

  drop(id: string): void {
    this.unstored.delete(id);
    const { [id]: _, ...others } = this.stored();
    this.store(others);
  }

  /** What was acknowledged need not be sent any more, unless it was changed meanwhile. */
  acknowledged(id: string, sent: Item): void {
    if (JSON.stringify(this.items()[id]) === JSON.stringify(sent)) this.drop(id);
  }

  /**
   * Sends what waits, also from before this window was opened, each until there is an answer; gives whether anything did. A second
   * call while one is under way joins it. Where nobody is signed in any more everything stays, for who signs in again.
   */
  send(answerTo: (id: string, item: Item) => Promise<Answer<unknown>>): Promise<boolean> {
    this.sending ??= this.sendAll(answerTo);
    return this.sending;
  }

  private async sendAll(answerTo: (id: string, item: Item) => Promise<Answer<unknown>>): Promise<boolean> {
    // From here on `sending` is set, until the very moment in which nothing is left: whatever is put later is sent anew.
    await Promise.resolve();
    try {
      for (let hasSent = false; ; hasSent = true) {
        const next = Object.entries(this.items())[0];
        if (!next) return hasSent;
        const answer = await answerTo(...next);
        if (answer?.kind === 'signed out') return hasSent;
        this.acknowledged(...next);
      }
    } finally {
      this.sending = null;
    }
  }

  private stored(): Record<string, Item> {
    try {
      return JSON.parse(localStorage.getItem(this.key) ?? '{}') as Record<string, Item>;
    } catch {
      return {};
    }
  }

  private store(items: Record<string, Item>): boolean {
    try {
      localStorage.setItem(this.key, JSON.stringify(items));
      return true;
    } catch {
      return false;
    }
  }
}
