import { useEffect, useState } from 'react';

const KEY = 'anchorbeat.midi';
const NOTE_ON = 0x90;
const CONTROL = 0xb0;
/** From here on a pedal counts as pressed. */
const PRESSED = 64;

export type MidiState = 'not here' | 'off' | 'listening' | 'refused';

/**
 * Pedals and pads through Web MIDI, as keys: "pedal 64" for a controller, "pad 38" for a note. They run through the same
 * key map as the keyboard's, so that they are taught and exchanged the same way.
 */
export function useMidiKeys(): { readonly state: MidiState; readonly connect: () => void } {
  const [state, setState] = useState<MidiState>('requestMIDIAccess' in navigator ? 'off' : 'not here');
  const [isWanted, setWanted] = useState(() => localStorage.getItem(KEY) === 'on');
  useEffect(() => {
    if (!isWanted || !('requestMIDIAccess' in navigator)) return undefined;
    let access: MIDIAccess | null = null;
    const listen = () => access?.inputs.forEach((input) => (input.onmidimessage = pressKeyOf));
    navigator.requestMIDIAccess().then(
      (granted) => {
        access = granted;
        access.onstatechange = listen;
        listen();
        setState('listening');
      },
      () => setState('refused'),
    );
    return () => {
      access?.inputs.forEach((input) => (input.onmidimessage = null));
    };
  }, [isWanted]);
  const connect = () => {
    localStorage.setItem(KEY, 'on');
    setWanted(true);
  };
  return { state, connect };
}

function pressKeyOf({ data }: MIDIMessageEvent): void {
  const key = data && midiKeyMaybe(data);
  if (key) pressKey(key);
}

/** The key that a MIDI message presses: none for a release, a clock or anything else. */
export function midiKeyMaybe(data: ArrayLike<number>): string | null {
  const [status = 0, number = 0, value = 0] = [data[0], data[1], data[2]];
  const kind = status & 0xf0;
  if (kind === NOTE_ON && value > 0) return `pad ${number}`;
  return kind === CONTROL && value >= PRESSED ? `pedal ${number}` : null;
}

/** Presses a key as if it were on the keyboard, where the focus is. */
export function pressKey(key: string): void {
  const target = document.activeElement ?? document.body;
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
}
