import { PLAIN_WEIGHTS, WEIGHT_LIMITS, type PlanWeights } from '@anchorbeat/core';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { NumberField } from '../ui/NumberField.tsx';

/** Shares are typed as percents. */
const FIELDS: readonly {
  readonly name: keyof PlanWeights;
  readonly label: string;
  readonly percents?: boolean;
}[] = [
  { name: 'mostMinutesAPlace', label: 'Longest on one place, minutes' },
  { name: 'warmUpMinutes', label: 'Off the instruments first, minutes' },
  { name: 'restEveryMinutes', label: 'A rest after so many minutes (0: none)' },
  { name: 'restMinutes', label: 'How long a rest is, minutes' },
  { name: 'wholeShare', label: 'From end to end: of the time up to, %', percents: true },
  { name: 'difficulty', label: 'Hard before easy, % (0: all alike)', percents: true },
];

interface WeightsDialogProps {
  readonly weights: PlanWeights;
  readonly onWeights: (weights: PlanWeights) => void;
  readonly onClose: () => void;
}

/** What weighs how much in a plan; the plan behind it flows anew with every number. */
export function WeightsDialog({ weights: known, onWeights, onClose }: WeightsDialogProps) {
  // What was typed last holds, however long the one before takes to be kept.
  const [weights, setWeights] = useState(known);
  const weigh = (next: PlanWeights) => {
    setWeights(next);
    onWeights(next);
  };
  return (
    <DialogShell
      title="What weighs how much"
      description="It holds from this date on, until another date has weights of its own."
      width="middle"
      onClose={onClose}
    >
      <div className="mt-4 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        {FIELDS.map(({ name, label, percents }) => {
          const scale = percents ? 100 : 1;
          const { least, most } = WEIGHT_LIMITS[name];
          return (
            <NumberField
              key={name}
              label={label}
              value={Math.round(weights[name] * scale)}
              min={least * scale}
              max={most * scale}
              onNumber={(value) => weigh({ ...weights, [name]: Math.round(value) / scale })}
            />
          );
        })}
      </div>
      <div className="mt-5 flex flex-wrap justify-end gap-3">
        <Button onClick={() => weigh(PLAIN_WEIGHTS)}>As usual</Button>
        <Button filled onClick={onClose}>
          Done
        </Button>
      </div>
    </DialogShell>
  );
}
