import type { JoinResponse, ProblemDocument } from '@anchorbeat/contract';
import type { NoteNames } from '@anchorbeat/core';
import { browserTexts } from '../kept/kept.ts';

const KEY = 'anchorbeat.stand';

/** A stand that this browser is, until its rehearsal ends. */
export interface JoinedStand {
  readonly code: string;
  readonly token: string;
  readonly section: string;
  readonly name: string;
  readonly ensembleName: string;
  readonly sections: readonly string[];
  /** Not from a server of before. */
  readonly noteNames?: NoteNames;
}

/** The stand that was joined by a code before; null for another code, or none. */
export function keptStandMaybe(code: string): JoinedStand | null {
  try {
    const stand = JSON.parse(browserTexts.get(KEY) ?? 'null') as JoinedStand | null;
    return stand && (code === '' || stand.code === code) ? stand : null;
  } catch {
    return null;
  }
}

export function keepStand(stand: JoinedStand | null): void {
  browserTexts.set(KEY, JSON.stringify(stand));
}

/** @throws Error with the server's words where the code opens nothing, or the server does not answer. */
export async function join(code: string, section?: string, name?: string): Promise<JoinResponse> {
  const body = JSON.stringify({ code, ...(section !== undefined && { section }), ...(name && { name }) });
  const answer = await fetch('/api/join', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body,
  }).catch(() => null);
  if (!answer) throw new Error('The server does not answer: are you in the network of the hall?');
  const value = (await answer.json()) as JoinResponse | ProblemDocument;
  if ('detail' in value) throw new Error(value.detail);
  return value;
}
