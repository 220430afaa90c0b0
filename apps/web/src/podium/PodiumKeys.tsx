import { Link } from 'react-router';
import { useAppSelector } from '../store/store.ts';
import { keyOfAct, shownKey, type OwnKeys, type PodiumAct } from './acts.ts';

interface PodiumKeysProps {
  readonly isRunning: boolean;
  readonly typed: string | null;
  readonly own: OwnKeys;
  readonly onAct: (act: PodiumAct) => void;
}

/** The keys one needs now, readable from the stand; each can be pressed as well. The rest is behind "?". */
export function PodiumKeys({ isRunning, typed, own, onAct }: PodiumKeysProps) {
  const { level, isMuted, waits } = useAppSelector((state) => state.transport);
  const key = (act: PodiumAct, text: string) => (
    <Key name={shownKey(keyOfAct(act, own))} text={text} onPress={() => onAct(act)} />
  );
  const tempo = (
    <span className="flex items-center">
      {key('slower', '')}
      {key('faster', 'tempo')}
    </span>
  );
  return (
    <footer className="flex flex-wrap items-center gap-x-6 gap-y-1 pb-4 text-[1.4rem] text-quiet">
      {typed !== null ? (
        <span>
          go to <b className="numeral text-[1.7rem] text-entry">{typed || '…'}</b>{' '}
          <kbd className="ml-2 rounded-lg border-2 border-quiet px-2.5 py-0.5 font-text font-bold text-ink">
            enter
          </kbd>
        </span>
      ) : isRunning ? (
        <>
          {key('run', 'stop')}
          {key('barEnd', 'at the bar’s end')}
          {key('cue', waits ? 'cue' : 'go on')}
          {tempo}
          {key('loop', 'loop')}
          {key('again', 'again')}
        </>
      ) : (
        <>
          {key('run', 'count me in')}
          {key('onward', 'from there')}
          {key('place', 'bar or mark')}
          {tempo}
          {key('loop', 'loop')}
          {key('fade', 'fade')}
        </>
      )}
      {key('mute', isMuted ? 'muted' : `level ${Math.round(level * 10)}`)}
      {key('keys', 'keys')}
      {!isRunning && (
        <Link to="../map" relative="path" className="ml-auto whitespace-nowrap">
          <kbd className="mr-2.5 rounded-lg border-2 border-quiet px-2.5 py-0.5 font-text font-bold text-ink">
            ⇧ M
          </kbd>
          map
        </Link>
      )}
    </footer>
  );
}

function Key({
  name,
  text,
  onPress,
}: {
  readonly name: string;
  readonly text: string;
  readonly onPress: () => void;
}) {
  return (
    <button
      type="button"
      className="whitespace-nowrap hover:text-ink"
      onClick={(event) => {
        event.currentTarget.blur();
        onPress();
      }}
    >
      <kbd className="mr-2 rounded-lg border-2 border-quiet px-2.5 py-0.5 font-text font-bold text-ink">
        {name}
      </kbd>{' '}
      {text}
    </button>
  );
}
