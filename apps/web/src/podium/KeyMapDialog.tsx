import { Dialog } from 'radix-ui';
import { useState, type KeyboardEvent } from 'react';
import { Button } from '../ui/Button.tsx';
import {
  ACT_GROUPS,
  keyOfAct,
  PODIUM_ACT_NAMES,
  PODIUM_ACTS,
  shownKey,
  withKey,
  type OwnKeys,
  type PodiumAct,
} from './acts.ts';
import type { useMidiKeys } from './useMidiKeys.ts';

const MIDI_WORDS = {
  off: 'Connect pedals and pads',
  listening: 'Pedals and pads connected',
  refused: 'The browser refused MIDI: try again',
} as const;

interface KeyMapDialogProps {
  readonly own: OwnKeys;
  readonly onOwn: (own: OwnKeys) => void;
  readonly midi: ReturnType<typeof useMidiKeys>;
  readonly onClose: () => void;
}

/** Every key of the podium. Press an act, then the key it shall have; pedals and pads are taught the same way. */
export function KeyMapDialog({ own, onOwn, midi, onClose }: KeyMapDialogProps) {
  const [learning, setLearning] = useState<PodiumAct | null>(null);
  const learn = (event: KeyboardEvent) => {
    if (!learning) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key !== 'Escape' && !/^(Shift|Control|Alt|Meta)$/.test(event.key))
      onOwn(withKey(own, learning, event.key));
    setLearning(null);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && !learning && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/60" />
        <Dialog.Content
          onKeyDownCapture={learn}
          onEscapeKeyDown={(event) => learning && event.preventDefault()}
          className="fixed top-6 left-1/2 max-h-[calc(100vh-3rem)] w-[64rem] max-w-[96vw] -translate-x-1/2 overflow-y-auto rounded-2xl bg-raised p-7 shadow-xl"
        >
          <div className="flex items-start gap-4">
            <div>
              <Dialog.Title className="text-2xl font-bold">Keys of the podium</Dialog.Title>
              <Dialog.Description className="mt-1 text-quiet">
                Press an act to give it another key; a pedal that types keys is taught the same way.
              </Dialog.Description>
            </div>
            <div className="ml-auto flex gap-3">
              {midi.state !== 'not here' && (
                <Button disabled={midi.state === 'listening'} onClick={midi.connect}>
                  {MIDI_WORDS[midi.state]}
                </Button>
              )}
              <Button onClick={() => onOwn({})}>As they were</Button>
              <Button filled onClick={onClose}>
                Done
              </Button>
            </div>
          </div>
          <div className="mt-5 columns-2 gap-8">
            {ACT_GROUPS.map((group) => (
              <section key={group} className="mb-4 break-inside-avoid" aria-label={group}>
                <h3 className="mb-1 font-display text-lg font-bold">{group}</h3>
                {PODIUM_ACT_NAMES.filter((act) => PODIUM_ACTS[act].group === group).map((act) => (
                  <button
                    key={act}
                    type="button"
                    aria-pressed={learning === act}
                    onClick={() => setLearning(learning === act ? null : act)}
                    className={`flex w-full items-center gap-3 rounded-lg border-2 px-2 py-0.5 text-left text-base ${learning === act ? 'border-entry' : 'border-transparent hover:border-faint'}`}
                  >
                    <kbd className="min-w-14 rounded-lg border-2 border-quiet px-2 text-center font-text font-bold">
                      {learning === act ? 'press …' : shownKey(keyOfAct(act, own))}
                    </kbd>
                    {PODIUM_ACTS[act].name}
                  </button>
                ))}
              </section>
            ))}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
