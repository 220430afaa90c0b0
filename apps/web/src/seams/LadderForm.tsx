import {
  FASTEST_PERCENT,
  LADDER_RULES,
  LADDER_STAGES,
  SLOWEST_PERCENT,
  type LadderPlan,
  type LadderStage,
} from '@anchorbeat/core';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { NumberField } from '../ui/NumberField.tsx';

const STAGE_WORDS: Readonly<Record<LadderStage, string>> = {
  tempo: 'tempo climbs',
  click: 'carry, pulse, fade',
  context: 'wider and wider',
  'two tempi': 'two tempi in turn',
  sections: 'one section after another',
};

const RULE_WORDS = {
  'each good': 'every good one goes up',
  'three good': 'three good up, two bad down',
} as const;

interface LadderFormProps {
  readonly plan: LadderPlan;
  /** What the ladder cannot keep of it. */
  readonly problem: string | null;
  readonly onPlan: (plan: LadderPlan) => void;
}

/** What a ladder climbs by, from where to where, and when. */
export function LadderForm({ plan, problem, onPlan }: LadderFormProps) {
  const set = (changes: Partial<LadderPlan>) => onPlan({ ...plan, ...changes });
  const toggle = (stage: LadderStage) =>
    set({
      stages: LADDER_STAGES.filter((each) =>
        each === stage ? !plan.stages.includes(stage) : plan.stages.includes(each),
      ),
    });
  return (
    <form className="grid gap-3" onSubmit={(event) => event.preventDefault()} aria-label="The ladder">
      <ToggleGroup
        label="Climb by"
        options={LADDER_STAGES.map((stage) => ({ value: stage, name: STAGE_WORDS[stage] }))}
        isOn={(stage) => plan.stages.includes(stage)}
        onToggle={toggle}
      />
      <div className="flex flex-wrap items-end gap-3">
        <NumberField
          label="Start, %"
          value={plan.startPercent}
          min={SLOWEST_PERCENT}
          max={FASTEST_PERCENT}
          onNumber={(startPercent) => set({ startPercent })}
        />
        <NumberField
          label="Goal, %"
          value={plan.goalPercent}
          min={SLOWEST_PERCENT}
          max={FASTEST_PERCENT}
          onNumber={(goalPercent) => set({ goalPercent })}
        />
        <NumberField
          label="Step"
          value={plan.step.size}
          min={0.5}
          max={100}
          onNumber={(size) => set({ step: { ...plan.step, size } })}
        />
        <ToggleGroup
          label="Step in"
          options={[
            { value: 'percent' as const, name: 'percent' },
            { value: 'bpm' as const, name: 'beats a minute' },
          ]}
          isOn={(by) => plan.step.by === by}
          onToggle={(by) => set({ step: { ...plan.step, by } })}
        />
      </div>
      <ToggleGroup
        label="Going up"
        options={LADDER_RULES.map((rule) => ({ value: rule, name: RULE_WORDS[rule] }))}
        isOn={(rule) => plan.rule === rule}
        onToggle={(rule) => set({ rule })}
      />
      <p role="alert" className="text-problem empty:hidden">
        {problem}
      </p>
    </form>
  );
}
