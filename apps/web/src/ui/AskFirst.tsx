import { useState } from 'react';
import { Button } from './Button.tsx';
import { RowAct } from './RowAct.tsx';

interface AskFirstProps {
  /** What is pressed. */
  readonly words: string;
  /** What it would do, asked in its place: nobody does it by a slip. */
  readonly question: string;
  readonly yes: string;
  readonly no: string;
  /** It stands at the end of a row. */
  readonly isSmall?: boolean;
  readonly does: () => void;
}

/** An act that cannot be taken back, which asks before it is done. */
export function AskFirst({ words, question, yes, no, isSmall = false, does }: AskFirstProps) {
  const [isAsking, setAsking] = useState(false);
  const ask = () => setAsking(true);
  if (!isAsking)
    return isSmall ? <RowAct words={words} onPress={ask} /> : <Button onClick={ask}>{words}</Button>;
  return (
    <span className="flex flex-wrap items-center gap-3 py-1" role="group" aria-label={question}>
      <span className="font-semibold">{question}</span>
      <span className="flex gap-3">
        <Button autoFocus onClick={() => setAsking(false)}>
          {no}
        </Button>
        <Button
          filled
          onClick={() => {
            setAsking(false);
            does();
          }}
        >
          {yes}
        </Button>
      </span>
    </span>
  );
}
