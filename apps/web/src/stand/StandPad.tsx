import { useEffect, useState } from 'react';
import type { StandSession } from './standSession.ts';

/** Where a player taps along while the run sounds: here, or with any key. Times are those of the events themselves. */
export function StandPad({ session }: { readonly session: StandSession }) {
  const [taps, setTaps] = useState(0);
  useEffect(() => {
    const tap = (event: KeyboardEvent) => {
      if (event.repeat || event.key === 'Tab' || event.key === 'Escape') return;
      event.preventDefault();
      session.tap(event.timeStamp);
      setTaps((count) => count + 1);
    };
    window.addEventListener('keydown', tap, { capture: true });
    return () => window.removeEventListener('keydown', tap, { capture: true });
  }, [session]);
  return (
    <button
      type="button"
      data-testid="stand-pad"
      className="stand-pad flex touch-manipulation items-center justify-center gap-4 rounded-2xl border-4 border-entry bg-raised text-[length:var(--large)] font-bold select-none active:bg-entry active:text-ground"
      onPointerDown={({ timeStamp }) => {
        session.tap(timeStamp);
        setTaps((count) => count + 1);
      }}
    >
      Tap along
      <span className="numeral text-quiet">{taps}</span>
    </button>
  );
}
