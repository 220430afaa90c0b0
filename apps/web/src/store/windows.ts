import { v4 as uuid } from 'uuid';

const WINDOW_KEY = 'anchorbeat.window';
const LOCK_PREFIX = 'anchorbeat.window.';
const CHANNEL = 'anchorbeat.windows';
/** Windows that have not answered by then are taken to be gone; asked only where the browser has no locks. */
const ANSWER_MS = 250;

/** The windows of this browser that have the app open. */
export interface Windows {
  /** This window's own name: kept over a reload, and never shared with a window it was duplicated from. */
  readonly own: Promise<string>;
  /** Which of some windows are there. */
  readonly present: (names: readonly string[]) => Promise<ReadonlySet<string>>;
}

/** A page that is loaded again may be there before the one it was has let go of its name: so long that is waited for. */
const LETS_GO_MS = 1000;

/** By the browser's locks, which it lets go of when a window is gone, however it went; else by asking around. */
export function pageWindows(): Windows {
  return 'locks' in navigator ? windowsByLocks(navigator.locks) : windowsByAsking();
}

/** The same by some locks of their own. */
export function windowsByLocks(locks: Pick<LockManager, 'request' | 'query'>): Windows {
  /** Holds a window's name for as long as the window lives; false where another goes on holding it. */
  const holds = (name: string) =>
    new Promise<boolean>((resolve, reject) => {
      locks
        .request(`${LOCK_PREFIX}${name}`, { signal: AbortSignal.timeout(LETS_GO_MS) }, () => {
          resolve(true);
          return new Promise<void>(() => undefined);
        })
        .catch((error: unknown) => {
          if (error instanceof DOMException && error.name === 'TimeoutError') resolve(false);
          else reject(error instanceof Error ? error : new Error(String(error)));
        });
    });
  return {
    own: ownName(holds),
    present: async (names) => {
      const { held = [] } = await locks.query();
      const there = new Set(held.map(({ name }) => name));
      return new Set(names.filter((name) => there.has(`${LOCK_PREFIX}${name}`)));
    },
  };
}

interface Asking {
  readonly kind: 'who is there' | 'I am';
  readonly name: string;
}

function windowsByAsking(): Windows {
  const channel = new BroadcastChannel(CHANNEL);
  let mine: string | null = null;
  const answers = new Set<string>();
  channel.onmessage = ({ data }: MessageEvent<Asking>) => {
    if (data.kind === 'I am') answers.add(data.name);
    else if (mine !== null) channel.postMessage({ kind: 'I am', name: mine } satisfies Asking);
  };
  const there = async () => {
    answers.clear();
    channel.postMessage({ kind: 'who is there', name: '' } satisfies Asking);
    await new Promise((resolve) => setTimeout(resolve, ANSWER_MS));
    return new Set(answers);
  };
  const own = ownName(async (name) => !(await there()).has(name));
  void own.then((name) => (mine = name));
  return {
    own,
    present: async (names) => {
      const found = await there();
      return new Set(names.filter((name) => found.has(name) || name === mine));
    },
  };
}

/** The name this tab has had before where nobody else goes by it, else a new one. */
async function ownName(isFree: (name: string) => Promise<boolean>): Promise<string> {
  const known = sessionText(WINDOW_KEY);
  if (known !== null && (await isFree(known))) return known;
  const name = uuid();
  await isFree(name);
  try {
    sessionStorage.setItem(WINDOW_KEY, name);
  } catch {
    // Nothing may be stored: the name lasts until the next reload.
  }
  return name;
}

function sessionText(key: string): string | null {
  try {
    return sessionStorage.getItem(key);
  } catch {
    return null;
  }
}
