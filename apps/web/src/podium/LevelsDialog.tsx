import { MOST_GROUP_LEVEL, SOUND_GROUPS, type SoundGroup } from '@anchorbeat/audio';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { storedGroupLevels, type GroupLevels } from '../sound/groupLevels.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { Button } from '../ui/Button.tsx';

const NAMES: Readonly<Record<SoundGroup, string>> = {
  downbeat: 'Downbeats',
  group: 'Groups',
  beat: 'Beats',
  subdivision: 'Subdivisions',
  'count-off': 'Count-off',
  overlay: 'Notes over the bar',
  voice: 'Voice',
};

/** How loud each sound is against the others. It is heard at once, also while a run sounds. */
export function LevelsDialog({ onClose }: { readonly onClose: () => void }) {
  const playback = usePlayback();
  const [levels, setLevels] = useState(storedGroupLevels);
  const set = (next: GroupLevels) => {
    setLevels(next);
    playback.setGroupLevels(next);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content className="fixed top-16 left-1/2 w-[34rem] max-w-[96vw] -translate-x-1/2 rounded-2xl bg-raised p-7 shadow-xl">
          <Dialog.Title className="text-2xl font-bold">How loud each sound is</Dialog.Title>
          <Dialog.Description className="mt-1 text-quiet">
            Against the others, from silent to half as loud again. No sum of them passes full scale.
          </Dialog.Description>
          <div className="mt-5 grid gap-3">
            {SOUND_GROUPS.map((group) => (
              <label
                key={group}
                className="grid grid-cols-[10rem_1fr_3.5rem] items-center gap-4 text-[1.1rem]"
              >
                {NAMES[group]}
                <input
                  type="range"
                  aria-label={NAMES[group]}
                  min={0}
                  max={MOST_GROUP_LEVEL}
                  step={0.1}
                  value={levels[group]}
                  onChange={({ target }) => set({ ...levels, [group]: target.valueAsNumber })}
                />
                <span className="numeral text-right">{Math.round(levels[group] * 100)} %</span>
              </label>
            ))}
          </div>
          <div className="mt-6 flex justify-end gap-3">
            <Button
              onClick={() =>
                set(Object.fromEntries(SOUND_GROUPS.map((group) => [group, 1])) as Record<SoundGroup, number>)
              }
            >
              As designed
            </Button>
            <Button filled onClick={onClose}>
              Done
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
