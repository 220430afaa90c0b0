interface RowActProps {
  readonly words: string;
  readonly onPress: () => void;
}

/** A small act at the end of a row. */
export function RowAct({ words, onPress }: RowActProps) {
  return (
    <button type="button" className="whitespace-nowrap text-quiet underline hover:text-ink" onClick={onPress}>
      {words}
    </button>
  );
}
