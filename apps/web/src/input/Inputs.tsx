import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { Kept, useKept } from '../kept/kept.ts';
import { listenToMidi } from './midi.ts';
import { SimulatedPedal } from './SimulatedPedal.tsx';

export type MidiState = 'not here' | 'off' | 'listening' | 'refused';

interface InputsValue {
  readonly midi: MidiState;
  readonly connectMidi: () => void;
  readonly hasScreenPedals: boolean;
  readonly toggleScreenPedals: () => void;
}

const InputsContext = createContext<InputsValue | null>(null);

const midiWanted = new Kept('anchorbeat.midi', (stored) => (stored === 'on' ? 'on' : 'off'));

/**
 * Pedals and pads for the whole app: through MIDI ("pedal 64" for a controller, "pad 38" for a note) and on the screen. They
 * press keys, so that they are taught and exchanged like any other.
 */
export function InputsProvider({ children }: { readonly children: ReactNode }) {
  const [wanted, want] = useKept(midiWanted);
  const [state, setState] = useState<MidiState>('requestMIDIAccess' in navigator ? 'off' : 'not here');
  const [hasScreenPedals, setScreenPedals] = useState(false);
  const isWanted = wanted === 'on' && state !== 'not here';
  useEffect(() => {
    if (!isWanted) return undefined;
    let isOver = false;
    let end = () => {};
    listenToMidi().then(
      (stopListening) => {
        end = stopListening;
        if (isOver) end();
        else setState('listening');
      },
      () => setState('refused'),
    );
    return () => {
      isOver = true;
      end();
    };
  }, [isWanted]);
  const value = useMemo(
    () => ({
      midi: state,
      connectMidi: () => want('on'),
      hasScreenPedals,
      toggleScreenPedals: () => setScreenPedals(!hasScreenPedals),
    }),
    [state, want, hasScreenPedals],
  );
  return (
    <InputsContext value={value}>
      {children}
      {hasScreenPedals && <SimulatedPedal />}
    </InputsContext>
  );
}

export function useInputs(): InputsValue {
  const inputs = useContext(InputsContext);
  if (!inputs) throw new Error('useInputs is used outside InputsProvider');
  return inputs;
}
