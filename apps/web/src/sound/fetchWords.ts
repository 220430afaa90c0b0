import type { WordIndex } from '@anchorbeat/audio';

/** The file of spoken counts, and where each word stands in it. */
export interface Words {
  readonly file: ArrayBuffer;
  readonly index: WordIndex;
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
    const [file, index] = await Promise.all([fetch(`/words/${name}`), fetch('/words/words.json')]);
    if (!file.ok || !index.ok) return null;
    return { file: await file.arrayBuffer(), index: (await index.json()) as WordIndex };
  } catch {
    return null;
  }
}
