import { useAppSelector } from '../store/store.ts';
import type { Tapping } from './useTapping.ts';

/** Where one taps along on the screen while a run sounds; it says by which key as well. */
export function TapPad({ tapping }: { readonly tapping: Tapping }) {
  const taps = useAppSelector((state) => state.transport.taps);
  if (!tapping.isOn) return null;
  return (
    <button
      type="button"
      data-testid="tap-pad"
      tabIndex={-1}
      onPointerDown={tapping.onPointerDown}
      className="mt-2 flex h-[clamp(3rem,9vh,6rem)] w-full touch-manipulation items-center justify-center gap-4 rounded-2xl border-4 border-entry bg-raised text-2xl font-bold select-none active:bg-entry active:text-ground"
    >
      Tap here, or Enter
      <span className="numeral text-quiet">{taps}</span>
    </button>
  );
}
