import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useTransport } from '../store/useTransport.ts';

/** The count, large, while the ensemble is being counted in. */
export function CountOffWord() {
  const playback = usePlayback();
  const { status, beatIndex } = useTransport('status', 'beatIndex');
  const beat = playback.plan?.countOff.beats[beatIndex];
  if (status !== 'countOff' || !beat) return null;
  return (
    <p
      data-layer
      data-testid="count-off-word"
      className="numeral pointer-events-none absolute bottom-8 right-12 rounded-2xl bg-ground px-8 py-2 text-[clamp(4rem,18cqw,9rem)] leading-none font-extrabold text-entry"
    >
      {beat.word}
    </p>
  );
}
