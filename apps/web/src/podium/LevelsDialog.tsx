import { MOST_GROUP_LEVEL, SOUND_GROUPS, type SoundGroup } from '@anchorbeat/audio';
import { useKept } from '../kept/kept.ts';
import { keptGroupLevels, type GroupLevels } from '../sound/groupLevels.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';

const NAMES: Readonly<Record<SoundGroup, string>> = {
  downbeat: 'Downbeats',
  group: 'Groups',
  beat: 'Beats',
  subdivision: 'Subdivisions',
  'count-off': 'Count-off',
  overlay: 'Notes over the bar',
  voice: 'Voice',
  players: 'Simulated players',
};

/** How loud each sound is against the others. It is heard at once, also while a run sounds. */
export function LevelsDialog({ onClose }: { readonly onClose: () => void }) {
  const playback = usePlayback();
  const [levels] = useKept(keptGroupLevels);
  const set = (next: GroupLevels) => playback.loudspeaker.setGroupLevels(next);
  return (
    <DialogShell
      title="How loud each sound is"
      description="Against the others, from silent to half as loud again. No sum of them passes full scale."
      width="narrow"
      onClose={onClose}
    >
      <div className="mt-5 grid gap-3">
        {SOUND_GROUPS.map((group) => (
          <label key={group} className="grid grid-cols-[10rem_1fr_3.5rem] items-center gap-4 text-[1.1rem]">
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
    </DialogShell>
  );
}
