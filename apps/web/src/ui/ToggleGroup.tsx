import { ToggleGroup as Group } from 'radix-ui';

interface ToggleGroupProps<Value extends string> {
  readonly label: string;
  readonly options: ReadonlyArray<{ readonly value: Value; readonly name: string }>;
  readonly isOn: (value: Value) => boolean;
  readonly onToggle: (value: Value) => void;
}

/** Choices side by side, each on or off; arrows go from one to the next while one has the focus. */
export function ToggleGroup<Value extends string>({
  label,
  options,
  isOn,
  onToggle,
}: ToggleGroupProps<Value>) {
  const on = options.map(({ value }) => value).filter(isOn);
  const toggled = (next: readonly string[]) => {
    const changed = options.find(({ value }) => on.includes(value) !== next.includes(value));
    if (changed) onToggle(changed.value);
  };
  return (
    <Group.Root
      type="multiple"
      aria-label={label}
      value={on}
      onValueChange={toggled}
      className="flex flex-wrap items-center gap-1.5"
    >
      <span className="mr-1.5 text-sm text-quiet">{label}</span>
      {options.map(({ value, name }) => (
        <Group.Item
          key={value}
          value={value}
          // Pressed by hand it gives the keyboard back to the screen.
          onPointerUp={({ currentTarget }) => currentTarget.blur()}
          className={`rounded-lg border-2 px-2.5 py-1 text-[0.95rem] ${isOn(value) ? 'border-ink bg-selection font-semibold' : 'border-faint text-quiet hover:border-quiet'}`}
        >
          {name}
        </Group.Item>
      ))}
    </Group.Root>
  );
}
