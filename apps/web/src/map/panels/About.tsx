import { rateAtBar, sectionsOf, tempoMapOf, type Bar, type PieceHead } from '@anchorbeat/core';
import { useMemo, useState } from 'react';
import { PulseAdviceText } from '../../ui/PulseAdviceText.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { useAppSelector } from '../../store/store.ts';
import { useEdit } from '../useEdit.ts';
import { usePresent } from '../usePresent.ts';

const FIELDS: ReadonlyArray<{
  readonly name: keyof PieceHead;
  readonly label: string;
  readonly example: string;
}> = [
  { name: 'title', label: 'Title', example: '' },
  { name: 'subtitle', label: 'Movement', example: '' },
  { name: 'composer', label: 'Composer', example: '' },
  { name: 'style', label: 'Period or style', example: 'harbour dance' },
  { name: 'key', label: 'Key', example: 'D minor' },
  { name: 'sections', label: 'Sections', example: 'Bells, Reeds, Drums' },
];

/** The head of the piece, its sections, and how the selected bar is best beaten. Each line is set when it is left. */
export function About() {
  const piece = usePresent();
  const focusBar = useAppSelector((state) => state.map.focusBar);
  const bar = piece.bars[Math.min(focusBar, piece.bars.length - 1)] as Bar;
  const rate = useMemo(
    () => rateAtBar(tempoMapOf(piece), Math.min(focusBar, piece.bars.length - 1)),
    [piece, focusBar],
  );
  const valueOf = (name: keyof PieceHead) =>
    name === 'sections' ? sectionsOf(piece).join(', ') : (piece[name] ?? '');
  return (
    <div className="grid gap-3">
      {FIELDS.map(({ name, label, example }) => (
        <HeadLine
          key={`${name} ${valueOf(name)}`}
          name={name}
          label={label}
          example={example}
          value={valueOf(name)}
        />
      ))}
      <section aria-label="How to beat it" className="mt-3 border-t-2 border-faint pt-4">
        <h3 className="mb-1 text-lg font-bold">How to beat the selected bar</h3>
        <PulseAdviceText bar={bar} rate={rate} />
      </section>
    </div>
  );
}

interface HeadLineProps {
  readonly name: keyof PieceHead;
  readonly label: string;
  readonly example: string;
  readonly value: string;
}

function HeadLine({ name, label, example, value }: HeadLineProps) {
  const edit = useEdit();
  const [text, setText] = useState(value);
  const set = () => {
    if (text.trim() === value.trim()) return;
    const done = edit({ kind: 'setHead', head: { [name]: name === 'sections' ? text.split(',') : text } });
    if (!done) setText(value);
  };
  return (
    <TextField
      label={label}
      value={text}
      placeholder={example}
      maxLength={name === 'sections' ? 1000 : 200}
      onText={setText}
      onBlur={set}
      onKeyDown={(event) => event.key === 'Enter' && set()}
    />
  );
}
