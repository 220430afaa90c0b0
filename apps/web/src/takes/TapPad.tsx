import { useEffect } from 'react';
import { toast } from '../ui/toast.ts';
import { useKept } from '../kept/kept.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useAppSelector } from '../store/store.ts';
import { hearRun, keptMicrophone } from './microphone.ts';
import { usePlayingAlong } from './playingAlong.ts';

interface TapPadProps {
  /** While the run waits for a cue nobody taps; the microphone stays open. */
  readonly isShown?: boolean;
}

/**
 * Where one taps along while a run sounds: here, with Enter, or on any pad that is plugged in. Times are those of the events
 * themselves, however late they are told. Where the microphone listens, what it hears is taken as well.
 */
export function TapPad({ isShown = true }: TapPadProps) {
  const playback = usePlayback();
  const { isOn } = usePlayingAlong();
  const taps = useAppSelector((state) => state.transport.taps);
  const isTapped = isOn && isShown;
  useEffect(() => {
    if (!isTapped) return undefined;
    const tap = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' && !event.key.startsWith('pad ')) return;
      event.preventDefault();
      event.stopPropagation();
      if (!event.repeat) playback.tap(event.timeStamp);
    };
    // Before anything that has the focus: a tap is a tap wherever it is.
    window.addEventListener('keydown', tap, { capture: true });
    return () => window.removeEventListener('keydown', tap, { capture: true });
  }, [isTapped, playback]);
  const { isOn: isHeard } = useKept(keptMicrophone)[0];
  const hears = isOn && isHeard;
  useEffect(() => {
    if (!hears) return undefined;
    const listening = hearRun(playback).catch((error: unknown) => {
      toast((error as Error).message);
      return null;
    });
    return () => void listening.then((open) => open?.close());
  }, [hears, playback]);
  if (!isTapped) return null;
  return (
    <button
      type="button"
      data-testid="tap-pad"
      tabIndex={-1}
      onPointerDown={({ timeStamp }) => playback.tap(timeStamp)}
      className="my-1.5 flex h-[clamp(2.75rem,6.5vh,4.5rem)] w-full flex-none touch-manipulation items-center justify-center gap-4 rounded-2xl border-4 border-entry bg-raised text-2xl font-bold whitespace-nowrap select-none active:bg-entry active:text-ground"
    >
      {hears ? 'Clap, play or tap' : 'Tap, or Enter'}
      <span className="numeral text-quiet">{taps}</span>
    </button>
  );
}
