import type { Habit } from '@anchorbeat/core';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { triedHabitSet } from '../store/transportSlice.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';

/** What simulated players do at seams: "players who …". */
export const HABIT_WORDS: Readonly<Record<Habit, string>> = {
  held: 'hold everything',
  'old-pulse': 'keep the old pulse',
  'old-small-note': 'keep the old small note',
  'turned-round': 'turn the equivalence round',
  'filled-up': 'fill odd bars up',
  'cut-short': 'cut long bars short',
  triplet: 'make a triplet of the last group',
  'lost-beat': 'lose a beat',
  'gained-beat': 'gain a beat',
  early: 'come early',
  late: 'come late',
  rushed: 'rush',
  dragged: 'drag',
  'settled-in': 'need some beats to settle',
  followed: 'follow instead of counting',
};
const NOBODY = 'nobody';
const OPTIONS = [
  { value: NOBODY, name: 'nobody' },
  ...Object.entries(HABIT_WORDS).map(([value, name]) => ({ value, name })),
];

/** Simulated sections that play along with the next runs, with one habit: a map is tried on them before the rehearsal. */
export function PlayersDialog({ onClose }: { readonly onClose: () => void }) {
  const dispatch = useAppDispatch();
  const habit = useAppSelector((state) => state.transport.triedHabit);
  return (
    <DialogShell
      title="Try it on simulated players"
      description="Three sections, low to high and left to right, play along with the next runs and are measured. Nothing of it is logged, and stands do not hear it."
      width="wide"
      onClose={onClose}
    >
      <div className="mt-5">
        <ToggleGroup
          label="Nobody, or players who"
          options={OPTIONS}
          isOn={(value) => value === (habit ?? NOBODY)}
          onToggle={(value) => dispatch(triedHabitSet(value === NOBODY ? null : (value as Habit)))}
        />
      </div>
      <div className="mt-6 flex justify-end">
        <Button filled onClick={onClose}>
          Done
        </Button>
      </div>
    </DialogShell>
  );
}
