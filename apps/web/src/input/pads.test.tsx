import { expect, test } from '@jest/globals';
import { listenToMidi } from './midi.ts';

test('a pad presses its key at the moment of its message, however late that is told', async () => {
  const pad: Partial<MIDIInput> = {};
  Object.assign(navigator, {
    requestMIDIAccess: () => Promise.resolve({ inputs: new Map([['pad', pad]]) }),
  });
  const pressed: (readonly [key: string, atMs: number])[] = [];
  const listen = ({ key, timeStamp }: KeyboardEvent) => pressed.push([key, timeStamp]);
  window.addEventListener('keydown', listen);
  const end = await listenToMidi();
  const say = (data: readonly number[], timeStamp: number) => {
    pad.onmidimessage?.call(pad as MIDIInput, { data, timeStamp } as unknown as MIDIMessageEvent);
  };
  say([0x99, 38, 90], 1000.25);
  say([0x89, 38, 0], 1040);
  say([0x99, 38, 90], 1300.5);
  end();
  window.removeEventListener('keydown', listen);
  expect(pressed).toEqual([
    ['pad 38', 1000.25],
    ['pad 38', 1300.5],
  ]);
  expect(pad.onmidimessage).toBeNull();
});
