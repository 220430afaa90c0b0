import type { Answer } from './sending.ts';

/** What waits is one's own: whose, where they have an account. */
interface OfAccount {
  readonly by?: string | null;
}

/** Who sends: an account, or whoever is here where nobody has one. Null where nobody may. */
type Sender = { readonly accountId: string | null } | null;

/**
 * What the server has not acknowledged yet, each by its id: kept in the browser over reloads, and sent one after the other. Where
 * the browser's storage is full or forbidden it lasts as long as the page.
 */
export class Outbox<Item extends OfAccount> {
  private readonly unstored = new Map<string, Item>();
  private sending: Promise<boolean> | null = null;

  /** `key` is where it is kept in the browser. */
  constructor(private readonly key: string) {}

  /** What waits of an account, and of nobody. */
  itemsOf(accountId: string | null): Readonly<Record<string, Item>> {
    const own = Object.entries(this.items()).filter(([, { by = null }]) => by === null || by === accountId);
    return Object.fromEntries(own);
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
   * Sends what waits of whoever sends, also from before this window was opened, each until there is an answer; gives whether
   * anything did. A second call while one is under way joins it. Where nobody is signed in any more everything stays, for when
   * they sign in again; so does what is another's.
   */
  send(
    sender: () => Sender,
    answerTo: (id: string, item: Item) => Promise<Answer<unknown>>,
  ): Promise<boolean> {
    this.sending ??= this.sendAll(sender, answerTo);
    return this.sending;
  }

  private async sendAll(
    sender: () => Sender,
    answerTo: (id: string, item: Item) => Promise<Answer<unknown>>,
  ): Promise<boolean> {
    // From here on `sending` is set, until the very moment in which nothing is left: whatever is put later is sent anew.
    await Promise.resolve();
    try {
      for (let hasSent = false; ; hasSent = true) {
        const from = sender();
        const next = from && Object.entries(this.itemsOf(from.accountId))[0];
        if (!next) return hasSent;
        const answer = await answerTo(...next);
        if (!answer || answer.kind === 'signed out') return hasSent;
        this.acknowledged(...next);
      }
    } finally {
      this.sending = null;
    }
  }

  private items(): Readonly<Record<string, Item>> {
    return { ...this.stored(), ...Object.fromEntries(this.unstored) };
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
