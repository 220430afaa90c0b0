interface ToggleGroupProps<Value extends string> {
  readonly label: string;
  readonly options: ReadonlyArray<{ readonly value: Value; readonly name: string }>;
  readonly isOn: (value: Value) => boolean;
  readonly onToggle: (value: Value) => void;
}

/** Choices side by side, each on or off. */
export function ToggleGroup<Value extends string>({
  label,
  options,
  isOn,
  onToggle,
}: ToggleGroupProps<Value>) {
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-center gap-1.5">
      <span className="mr-1.5 text-sm text-quiet">{label}</span>
      {options.map(({ value, name }) => (
        <button
          key={value}
          type="button"
          aria-pressed={isOn(value)}
          onClick={({ currentTarget }) => {
            currentTarget.blur();
            onToggle(value);
          }}
          className={`rounded-lg border-2 px-2.5 py-1 text-[0.95rem] ${isOn(value) ? 'border-ink bg-selection font-semibold' : 'border-faint text-quiet hover:border-quiet'}`}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
