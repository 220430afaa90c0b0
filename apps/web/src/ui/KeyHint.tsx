interface KeyHintProps {
  readonly keyName: string;
  readonly label: string;
  readonly onPress: () => void;
  readonly disabled?: boolean;
  readonly tone?: 'quiet' | 'problem';
}

/** A quiet control that shows the key it also answers to. */
export function KeyHint({ keyName, label, onPress, disabled, tone = 'quiet' }: KeyHintProps) {
  return (
    <button
      type="button"
      onClick={(event) => {
        event.currentTarget.blur();
        onPress();
      }}
      disabled={disabled}
      className={`group flex items-center gap-1.5 rounded px-1 py-0.5 text-left text-[0.85rem] hover:text-ink disabled:opacity-45 ${tone === 'problem' ? 'font-semibold text-problem' : 'text-quiet'}`}
    >
      <kbd className="min-w-6 rounded-md border border-quiet px-1.5 py-px text-center font-text text-[0.75rem] font-bold text-ink group-hover:border-ink">
        {keyName}
      </kbd>
      {label}
    </button>
  );
}
