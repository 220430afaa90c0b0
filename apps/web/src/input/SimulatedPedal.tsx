import { pressKey } from './midi.ts';

/** Two pedals on the screen that send what a real one would: for trying the key map out, and for a foot on a tablet. */
export function SimulatedPedal() {
  return (
    <div className="fixed right-8 bottom-20 z-10 flex gap-4" data-testid="simulated-pedal">
      {[
        { key: 'pedal 67', name: 'left pedal' },
        { key: 'pedal 64', name: 'right pedal' },
      ].map(({ key, name }) => (
        <button
          key={key}
          type="button"
          onPointerDown={(event) => {
            event.preventDefault();
            pressKey(key);
          }}
          className="h-32 w-28 rounded-b-3xl rounded-t-lg border-4 border-quiet bg-raised text-[1.4rem] font-semibold active:border-entry"
        >
          {name}
        </button>
      ))}
    </div>
  );
}
