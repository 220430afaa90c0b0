import { Link } from 'react-router';
import { usePlayback } from '../sound/PlaybackContext.tsx';

/** The keys of the podium, readable from the stand. */
export function PodiumKeys({ isRunning, typed }: { readonly isRunning: boolean; readonly typed: string }) {
  const playback = usePlayback();
  return (
    <footer className="flex items-center gap-9 pb-5 text-[1.4rem] text-quiet">
      <Key name="space" text={isRunning ? 'stop' : 'count me in'} />
      {!isRunning && <Key name="← →" text="another bar" />}
      {!isRunning && (
        <span>
          {typed ? (
            <>
              go to <b className="numeral text-[1.7rem] text-entry">{typed}</b> <Key name="enter" text="" />
            </>
          ) : (
            'type a bar or a mark'
          )}
        </span>
      )}
      <Key name="↑ ↓" text="level" />
      {!isRunning && (
        <Link to="../map" relative="path" className="ml-auto">
          <Key name="⇧ M" text="map" />
        </Link>
      )}
      <span className="sr-only">Level {Math.round(playback.level * 100)} percent</span>
    </footer>
  );
}

function Key({ name, text }: { readonly name: string; readonly text: string }) {
  return (
    <span className="whitespace-nowrap">
      <kbd className="mr-2.5 rounded-lg border-2 border-quiet px-2.5 py-0.5 font-text font-bold text-ink">
        {name}
      </kbd>
      {text}
    </span>
  );
}
