import type { WordIndex } from '@anchorbeat/audio';

/** The file of spoken counts, and where each word stands in it. */
export interface Words {
  readonly file: ArrayBuffer;
  readonly index: WordIndex;
}

/** Fetches the spoken counts that ship with the app; null where that fails, and clicks stand for them. */
export async function fetchWords(): Promise<Words | null> {
  try {
    const [file, index] = await Promise.all([fetch('/words/words.wav'), fetch('/words/words.json')]);
    if (!file.ok || !index.ok) return null;
    return { file: await file.arrayBuffer(), index: (await index.json()) as WordIndex };
  } catch {
    return null;
  }
}
