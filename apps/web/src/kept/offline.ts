/** Where the answers of the server are kept that the app opens with while there is none. */
const ANSWERS = 'anchorbeat-answers';

/** What the Shelf asks, from where everything else is reached. */
const SHELF = ['/api/session', '/api/ensembles', '/api/pieces'];

/** A page that nothing has taken over by then goes on without. */
const TAKEN_OVER_MS = 10_000;

let isKept = false;

/** What is kept anew: one after the other, so that an older answer never comes to lie over a newer one. */
let last: Promise<unknown> = Promise.resolve();

function inTurn<T>(step: () => Promise<T>): Promise<T> {
  document.documentElement.dataset['offline'] = 'keeping';
  const result = last.then(step);
  const settled = result
    .catch(() => undefined)
    .then(() => {
      if (last === settled) document.documentElement.dataset['offline'] = isKept ? 'kept' : 'not kept';
    });
  last = settled;
  return result;
}

/**
 * From now on the app opens without a network too, with what was looked at last. Asked for when a piece is opened: a first visit
 * loads nothing for later. Where the page is not secure, or may not store, it goes on without.
 */
export async function keepOffline(): Promise<void> {
  if (isKept || !('serviceWorker' in navigator) || !window.isSecureContext) return;
  isKept = true;
  await inTurn(async () => {
    try {
      await begun();
      await askAgain();
    } catch {
      isKept = false;
    }
  });
}

/**
 * The answer at an address is another one by now: it is asked for and kept anew. Gives whether what is kept is as new as it is
 * wanted; true where nothing is kept.
 */
export function keptAnew<Answer>(path: string, isNew: (answer: Answer) => boolean): Promise<boolean> {
  if (!isKept) return Promise.resolve(true);
  return inTurn(async () => {
    if (!isKept) return true;
    const answer = await fetch(path, { credentials: 'same-origin' });
    if (!answer.ok) return false;
    await (await caches.open(ANSWERS)).put(path, answer.clone());
    return isNew((await answer.json()) as Answer);
  }).catch(() => false);
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

/** Where it was begun before it goes on, also while there is no server to ask for a newer one. */
async function begun(): Promise<void> {
  const { serviceWorker } = navigator;
  const registered = serviceWorker.register('/sw.js');
  if (serviceWorker.controller) return void registered.catch(() => undefined);
  await registered;
  await serviceWorker.ready;
  await controlled();
}

/** Resolves once what this page asks goes through what keeps it. Rejects where it goes past it, as after a forced reload. */
function controlled(): Promise<unknown> {
  const { serviceWorker } = navigator;
  if (serviceWorker.controller) return Promise.resolve();
  return new Promise((resolve, reject) => {
    serviceWorker.addEventListener('controllerchange', resolve, { once: true });
    setTimeout(() => reject(new Error('nothing has taken the page over')), TAKEN_OVER_MS);
  });
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
  const page = await fetch('/', { credentials: 'same-origin' }).catch(() => null);
  if (page?.ok) await cache.put('/', page);
}
