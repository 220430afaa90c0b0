import type { RecordedWords, WordIndex } from '@anchorbeat/audio';
import { keptOwnNames } from './ownNames.ts';

/** The file of spoken counts, where each word stands in it, and those in somebody's own voice. */
export interface Words {
  readonly file: ArrayBuffer;
  readonly index: WordIndex;
  /** Said before the others; null where there are none. */
  readonly own: RecordedWords | null;
}

/** Fetches the spoken counts that ship with the app, packed; null where that fails, and clicks stand for them. */
export function fetchWords(): Promise<Words | null> {
  return fetched('words.mp3');
}

/** The same as they were recorded, for what is rendered to a file. */
export function fetchWholeWords(): Promise<Words | null> {
  return fetched('words.wav');
}

async function fetched(name: string): Promise<Words | null> {
  try {
    const [file, index, own] = await Promise.all([
      fetch(`/words/${name}`),
      fetch('/words/words.json'),
      ownWords(),
    ]);
    if (!file.ok || !index.ok) return null;
    return { file: await file.arrayBuffer(), index: (await index.json()) as WordIndex, own };
  } catch {
    return null;
  }
}

/** Nothing is loaded for them where nobody has recorded any. */
async function ownWords(): Promise<RecordedWords | null> {
  if (keptOwnNames.get().length === 0) return null;
  const { ownVoice } = await import('../voice/ownVoice.ts');
  return ownVoice.recording().catch(() => null);
}
