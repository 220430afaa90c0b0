import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { ActHint } from '../acts/ActButton.tsx';
import { useSheetAct } from '../acts/SheetProvider.tsx';
import { Kept } from '../kept/kept.ts';

/** What each screen is for, by the last part of its address: its one act, with a key and by hand. */
const SIGHTS = {
  shelf: { keys: 'Press a piece, or its number, to open its map.', hand: 'Press a piece to open its map.' },
  map: {
    keys: 'Choose a bar and type what the print says there: m for its meter, t for a tempo; space plays it.',
    hand: 'Press a bar and say what the print has there: a meter, a tempo; then play it.',
  },
  seams: {
    keys: 'Choose a seam; space runs it slowly, with what to hold on to.',
    hand: 'Press a seam and run it slowly, with what to hold on to.',
  },
  podium: { keys: 'Space counts you in, and stops.', hand: 'Count me in begins; a longer press stops.' },
  bench: {
    keys: 'Choose a question and type what you know: the answer comes as you type.',
    hand: 'Choose a question and fill in what you know: the answer comes at once.',
  },
  handout: { keys: 'Choose what to give, and to whom.', hand: 'Choose what to give, and to whom.' },
  rehearse: {
    keys: 'Say when you rehearse; space begins what is planned for it.',
    hand: 'Say when you rehearse, and begin what is planned for it.',
  },
} as const satisfies Record<string, { readonly keys: string; readonly hand: string }>;

type Screen = keyof typeof SIGHTS;

const keptSeen = new Kept<readonly Screen[]>('anchorbeat.seenScreens', (stored) =>
  Array.isArray(stored) ? stored.filter(isScreen) : [],
);

/** The first time a screen is seen in a browser: its one act, and where the rest is. It goes by itself. */
export function FirstSight() {
  const { pathname } = useLocation();
  const screen = pathname === '/' ? 'shelf' : (pathname.split('/').at(-1) ?? '');
  return isScreen(screen) ? <Sight key={screen} screen={screen} /> : null;
}

function Sight({ screen }: { readonly screen: Screen }) {
  const [isFirst] = useState(() => !keptSeen.get().includes(screen));
  const sheet = useSheetAct();
  useEffect(() => {
    if (!keptSeen.get().includes(screen)) keptSeen.set([...keptSeen.get(), screen]);
  }, [screen]);
  if (!isFirst) return null;
  const { keys, hand } = SIGHTS[screen];
  return (
    <section
      aria-label="What one does here"
      // A phone on its side has no line to spare.
      className="flex flex-wrap items-center gap-x-3 border-b-2 border-faint bg-raised px-4 py-0.5 text-ink [@media(max-height:28rem)]:hidden print:hidden"
    >
      <span className="with-keys">{keys}</span>
      <span className="without-keys">{hand}</span>
      <ActHint act={{ ...sheet, label: 'all that can be done here' }} />
    </section>
  );
}

function isScreen(name: unknown): name is Screen {
  return typeof name === 'string' && Object.hasOwn(SIGHTS, name);
}
