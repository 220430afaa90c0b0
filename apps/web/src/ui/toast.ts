import type { ExternalToast } from 'sonner';

type Toast = (words: string, options?: ExternalToast) => unknown;

const waiting: Array<Parameters<Toast>> = [];
const askers = new Set<() => void>();
let shows: Toast | null = null;

/** Tells something at the foot of the page for a moment. What shows it comes with the first touch of the page. */
export const toast: Toast = (...told) => {
  if (shows) return shows(...told);
  waiting.push(told);
  for (const ask of askers) ask();
  return undefined;
};

/** Calls back as soon as something is to be told; the returned function ends that. */
export function whenToasted(ask: () => void): () => void {
  askers.add(ask);
  return () => void askers.delete(ask);
}

/** From now on all is shown by this, first what waits. */
export function showToastsBy(toaster: Toast): void {
  shows = toaster;
  for (const told of waiting.splice(0)) toaster(...told);
}
