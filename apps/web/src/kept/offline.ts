/** Where the answers of the server are kept that the app opens with while there is none. */
const ANSWERS = 'anchorbeat-answers';

/** What the Shelf asks, from where everything else is reached. */
const SHELF = ['/api/session', '/api/ensembles', '/api/pieces'];

let isKept = false;

/**
 * From now on the app opens without a network too, with what was looked at last. Asked for when a piece is opened: a first visit
 * loads nothing for later. Where the page is not secure, or may not store, it goes on without.
 */
export async function keepOffline(): Promise<void> {
  if (isKept || !('serviceWorker' in navigator) || !window.isSecureContext) return;
  isKept = true;
  try {
    await begun();
    await askAgain();
    document.documentElement.dataset['offline'] = 'kept';
  } catch {
    isKept = false;
  }
}

/** From now on the page of stands opens without a network too. Where the page is not secure it does not, and all else works. */
export async function keepStandOffline(): Promise<void> {
  if (!('serviceWorker' in navigator) || !window.isSecureContext) return;
  try {
    await begun();
    const page = await fetch('/s');
    if (page.ok) await (await caches.open('anchorbeat-page')).put('/s', page);
    await Promise.all(['/words/words.mp3', '/words/words.json'].map((path) => fetch(path)));
    document.documentElement.dataset['offline'] = 'kept';
  } catch {
    // What was taken home is practised with the server near, or another time.
  }
}

/** The answer at an address is another one by now: what is kept of it is asked for anew. */
export function answerChanged(path: string): void {
  if (isKept && navigator.serviceWorker.controller) void fetch(path).catch(() => undefined);
}

/** Who signs out, or somebody else in their place, finds nothing of what was read here before. */
export async function forgetAnswers(): Promise<void> {
  if ('caches' in window) await caches.delete(ANSWERS).catch(() => false);
}

/** The same of all but who is here: what was still on its way when somebody signed out came after that. */
export async function forgetLateAnswers(): Promise<void> {
  try {
    if (!('caches' in window) || !(await caches.has(ANSWERS))) return;
    const answers = await caches.open(ANSWERS);
    const read = (await answers.keys()).filter(({ url }) => new URL(url).pathname !== '/api/session');
    await Promise.all(read.map((asked) => answers.delete(asked)));
  } catch {
    // Where the page may not store, nothing was kept.
  }
}

async function begun(): Promise<void> {
  await navigator.serviceWorker.register('/sw.js');
  await navigator.serviceWorker.ready;
  await controlled();
}

/** Resolves once what this page asks goes through what keeps it. */
function controlled(): Promise<unknown> {
  const { serviceWorker } = navigator;
  if (serviceWorker.controller) return Promise.resolve();
  return new Promise((resolve) =>
    serviceWorker.addEventListener('controllerchange', resolve, { once: true }),
  );
}

/** What this page was answered before anything was kept is asked once more, and the page itself. */
async function askAgain(): Promise<void> {
  const asked = performance
    .getEntriesByType('resource')
    .map(({ name }) => new URL(name))
    .filter(({ origin, pathname }) => origin === location.origin && /^\/(api|assets)\//.test(pathname))
    .filter(({ pathname }) => !/^\/api\/(socket|rooms|reports|health)/.test(pathname));
  const wanted = new Set([...SHELF, ...asked.map(({ pathname, search }) => pathname + search)]);
  await Promise.all([...wanted].map((path) => fetch(path, { credentials: 'same-origin' }).catch(() => null)));
  const cache = await caches.open('anchorbeat-page');
  const page = await fetch('/', { credentials: 'same-origin' });
  if (page.ok) await cache.put('/', page);
}
