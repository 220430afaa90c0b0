import { useEffect, useState } from 'react';
import { useKept } from '../kept/kept.ts';
import { AtHome } from './AtHome.tsx';
import { JoinForm } from './JoinForm.tsx';
import { keepStand, keptStandMaybe, type JoinedStand } from './join.ts';
import { keptHomePieces } from './homePieces.ts';
import { keptOwnSettings } from './ownSettings.ts';
import { standInRoom, type StandSession } from './standSession.ts';
import { StandView } from './StandView.tsx';
import { lazyPart } from '../ui/lazyNamed.tsx';

/** Loaded by who practises. */
const Practice = lazyPart('Practice', () => import('./Practice.tsx'));

/** The code in the address: "/s/ACDEFG"; empty where there is none. */
function addressCode(): string {
  return /^\/s\/([^/]+)/.exec(window.location.pathname)?.[1]?.toUpperCase() ?? '';
}

/** A section's own device: it joins by a code, waits for the press that lets it sound, and follows the room. */
export function StandApp() {
  const [code] = useState(addressCode);
  const [stand, setStand] = useState<JoinedStand | null>(() => keptStandMaybe(code));
  const [session, setSession] = useState<StandSession | null>(null);
  useEffect(() => () => session?.close(), [session]);
  const [isPractising, setPractising] = useState(false);
  const [{ look }] = useKept(keptOwnSettings);
  useEffect(() => {
    document.documentElement.dataset['theme'] = look;
  }, [look]);
  const home = keptHomePieces.get();
  const practise = () => setPractising(true);
  const leave = () => {
    keepStand(null);
    setSession(null);
    setStand(null);
  };
  if (isPractising && home) return <Practice home={home} onLeave={() => setPractising(false)} />;
  if (!stand)
    return (
      <JoinForm
        code={code}
        onPractise={practise}
        onJoined={(joined) => {
          keepStand(joined);
          setStand(joined);
        }}
      />
    );
  if (!session)
    return (
      <Threshold
        stand={stand}
        onReady={() => setSession(standInRoom(stand))}
        onLeave={leave}
        onPractise={practise}
      />
    );
  return <StandView session={session} onLeave={leave} />;
}

interface ThresholdProps {
  readonly onPractise: () => void;
  readonly stand: JoinedStand;
  readonly onReady: () => void;
  readonly onLeave: () => void;
}

/** A browser sounds only after a press; here it is asked for, with what is to be known of headphones. */
function Threshold({ stand, onReady, onLeave, onPractise }: ThresholdProps) {
  return (
    <main className="grid min-h-dvh content-center gap-6 bg-ground p-6 text-ink sm:justify-center">
      <div>
        <p className="text-lg text-quiet">{stand.ensembleName}</p>
        <h1 className="text-5xl font-extrabold">{stand.section}</h1>
        {stand.name && <p className="mt-1 text-lg text-quiet">{stand.name}</p>}
      </div>
      <button
        type="button"
        className="rounded-2xl bg-entry px-8 py-6 text-2xl font-bold text-ground"
        onClick={onReady}
      >
        I am at my stand
      </button>
      <p className="max-w-[32rem] text-quiet">
        The click comes softly at first. With headphones set it only as loud as you need to hear it, keep one
        ear free, and rest your ears when the ensemble rests.
      </p>
      {!window.isSecureContext && (
        <p className="max-w-[32rem] text-sm text-quiet">
          Opened without https: this phone may let its screen go dark and cannot listen through its
          microphone. All else works.
        </p>
      )}
      <button type="button" className="justify-self-start text-quiet underline" onClick={onLeave}>
        Another section or another code
      </button>
      <AtHome onPractise={onPractise} />
    </main>
  );
}
