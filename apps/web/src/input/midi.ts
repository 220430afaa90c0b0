const NOTE_ON = 0x90;
const CONTROL = 0xb0;
/** From here on a pedal counts as pressed. */
const PRESSED = 64;

/** The key that a MIDI message presses: none for a release, a clock or anything else. */
export function midiKeyMaybe(data: ArrayLike<number>): string | null {
  const [status = 0, number = 0, value = 0] = [data[0], data[1], data[2]];
  const kind = status & 0xf0;
  if (kind === NOTE_ON && value > 0) return `pad ${number}`;
  return kind === CONTROL && value >= PRESSED ? `pedal ${number}` : null;
}

/** Presses a key as if it were on the keyboard, where the focus is, at the moment of the page when that came in. */
export function pressKey(key: string, atMs = performance.now()): void {
  const press = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
  // What is timed takes the moment from the event, as that of a key.
  Object.defineProperty(press, 'timeStamp', { value: atMs });
  (document.activeElement ?? document.body).dispatchEvent(press);
}

/** Listens to every MIDI input there is, also those that are plugged in later; the returned function ends that. */
export async function listenToMidi(): Promise<() => void> {
  const access = await navigator.requestMIDIAccess();
  const listen = () => access.inputs.forEach((input) => (input.onmidimessage = pressKeyOf));
  access.onstatechange = listen;
  listen();
  return () => {
    access.onstatechange = null;
    access.inputs.forEach((input) => (input.onmidimessage = null));
  };
}

function pressKeyOf({ data, timeStamp }: MIDIMessageEvent): void {
  const key = data && midiKeyMaybe(data);
  if (key) pressKey(key, timeStamp);
}
