import { Kept, oneOf } from '../kept/kept.ts';

/** Whether what is said of headphones was read in this browser. */
const keptNote = new Kept('anchorbeat.hearingNote', oneOf(['unread', 'read']));

/** The one question before the first sound of a browser: it waits for its answer, and the sound waits for it. */
class HearingQuestion {
  private answerNow: ((mayBegin: boolean) => void) | null = null;
  private readonly listeners = new Set<() => void>();

  /** Null where nothing is to be asked; else whether the sound may begin, once that is known. */
  readonly askMaybe = (): Promise<boolean> | null => {
    if (keptNote.get() === 'read') return null;
    this.answerNow?.(false);
    return new Promise((resolve) => {
      this.answerNow = resolve;
      this.tell();
    });
  };

  readonly isAsked = (): boolean => this.answerNow !== null;

  readonly answer = (mayBegin: boolean): void => {
    if (mayBegin) keptNote.set('read');
    this.answerNow?.(mayBegin);
    this.answerNow = null;
    this.tell();
  };

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  private tell(): void {
    for (const listener of this.listeners) listener();
  }
}

export const hearing = new HearingQuestion();
