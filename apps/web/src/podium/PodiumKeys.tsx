import { Link } from 'react-router';
import { useAppSelector } from '../store/store.ts';

/** The keys of the podium, readable from the stand. */
export function PodiumKeys({ isRunning, typed }: { readonly isRunning: boolean; readonly typed: string }) {
  const level = useAppSelector((state) => state.transport.level);
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
      <Key name="↑ ↓" text={`level ${Math.round(level * 10)}`} />
      {!isRunning && (
        <Link to="../map" relative="path" className="ml-auto">
          <Key name="⇧ M" text="map" />
        </Link>
      )}
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
