import type { ArchivePreview, ProblemDocument } from '@anchorbeat/contract';

/** An archive is sent whole and looked at; a large one takes its time. */
const MOST_MS = 120_000;

type Answer =
  | { readonly ok: true; readonly preview: ArchivePreview }
  | { readonly ok: false; readonly says: string };

/** What bringing an archive back would change. Nothing is changed. */
export function lookAtArchive(file: File): Promise<Answer> {
  return send('/api/archives/look', file);
}

/** Brings it back, if it still does what was looked at. */
export function restoreArchive(file: File, { digest }: ArchivePreview): Promise<Answer> {
  return send(`/api/archives/restore?digest=${digest}`, file);
}

async function send(path: string, file: File): Promise<Answer> {
  try {
    const response = await fetch(path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: file,
      signal: AbortSignal.timeout(MOST_MS),
    });
    if (response.ok) return { ok: true, preview: (await response.json()) as ArchivePreview };
    const problem = (await response.json().catch(() => null)) as ProblemDocument | null;
    return { ok: false, says: problem?.detail ?? 'This archive could not be taken in' };
  } catch {
    return { ok: false, says: 'The server does not answer: check that Anchorbeat is still running' };
  }
}
