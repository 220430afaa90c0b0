import { Link } from 'react-router';
import { accessibleName, shownWords, type Act } from '../acts/act.ts';
import { pressed, useShownKey } from '../acts/ActButton.tsx';
import { useSheetAct } from '../acts/SheetProvider.tsx';
import { useTransport } from '../store/useTransport.ts';
import type { PodiumAct } from './acts.ts';

interface PodiumKeysProps {
  readonly isRunning: boolean;
  readonly typed: string | null;
  readonly acts: Readonly<Record<PodiumAct, Act>>;
}

/** The keys one needs now, readable from the stand; each can be pressed as well. The rest is behind "?". */
export function PodiumKeys({ isRunning, typed, acts }: PodiumKeysProps) {
  const { level, isMuted, waits, playsAlong } = useTransport('level', 'isMuted', 'waits', 'playsAlong');
  const sheet = useSheetAct();
  const key = (act: PodiumAct, label: string) => <Key act={{ ...acts[act], label }} />;
  const all = <Key act={{ ...sheet, label: 'all' }} />;
  const tempo = (
    <span className="flex items-center gap-x-2">
      {key('slower', 'slower')}
      {key('faster', 'faster')}
    </span>
  );
  return (
    <footer className="podium-keys flex h-[var(--key-row)] flex-wrap items-center gap-x-4 gap-y-2 overflow-hidden text-[length:var(--least)] text-quiet pointer-coarse:gap-x-2">
      {typed !== null ? (
        <span>
          go to <b className="numeral text-[1.2em] text-entry">{typed || '…'}</b> <Cap shown="enter" />
        </span>
      ) : isRunning ? (
        <>
          {key('run', 'stop')}
          {all}
          {key('barEnd', 'at the bar’s end')}
          {key('cue', waits ? 'cue' : 'go on')}
          {tempo}
          {key('loop', 'loop')}
          {key('again', 'again')}
        </>
      ) : (
        <>
          {key('run', 'count me in')}
          {all}
          {key('onward', 'from there')}
          {key('place', 'bar')}
          {playsAlong === null ? key('together', 'together') : key('microphone', 'microphone')}
          {tempo}
          {key('loop', 'loop')}
          {key('along', 'play along')}
        </>
      )}
      <Key act={{ ...acts.mute, state: isMuted ? 'muted' : `level ${Math.round(level * 10)}` }} />
      {!isRunning && (
        <Link
          to="../map"
          relative="path"
          className="order-first flex h-[var(--key-row)] items-center whitespace-nowrap @5xl:order-none @5xl:ml-auto pointer-coarse:rounded-xl pointer-coarse:border-2 pointer-coarse:border-faint pointer-coarse:px-3"
        >
          <Cap shown="⇧ M" />
          map
        </Link>
      )}
    </footer>
  );
}

function Key({ act }: { readonly act: Act }) {
  const shown = useShownKey(act);
  return (
    <button
      type="button"
      aria-label={accessibleName(act)}
      className="flex h-[var(--key-row)] items-center whitespace-nowrap hover:text-ink pointer-coarse:rounded-xl pointer-coarse:border-2 pointer-coarse:border-faint pointer-coarse:px-3"
      {...pressed(act)}
    >
      {shown && <Cap shown={shown} />}
      {shownWords(act)}
    </button>
  );
}

function Cap({ shown }: { readonly shown: string }) {
  return (
    <kbd
      aria-hidden
      className="mr-2 rounded-lg border-2 border-quiet px-2.5 py-0.5 font-text font-bold text-ink"
    >
      {shown}
    </kbd>
  );
}
