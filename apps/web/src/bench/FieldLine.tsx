import { inNoteNames, strokesText, type BenchField, type TappedNote } from '@anchorbeat/core';
import { useState } from 'react';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { Recording } from './Recording.tsx';

interface FieldLineProps {
  readonly field: BenchField;
  readonly text: string;
  readonly isWrong: boolean;
  readonly onText: (text: string) => void;
}

/** A line to type on, with how it is written under it; some can be tapped. */
export function FieldLine({ field, text, isWrong, onText }: FieldLineProps) {
  const width = field.takesTaps || field.usual.length > 14 ? 'w-[min(26rem,100%)]' : 'w-32';
  return (
    <div className={`grid min-w-0 gap-1 ${width}`}>
      <label className="grid min-w-0 gap-1 text-sm text-quiet">
        {field.label}
        {field.choices ? (
          <Choice field={field} text={text} onText={onText} />
        ) : (
          <input
            autoComplete="off"
            spellCheck={false}
            maxLength={400}
            value={text}
            aria-invalid={isWrong}
            onChange={({ target }) => onText(target.value)}
            className={`numeral w-full min-w-0 rounded-lg border-2 bg-ground px-2.5 py-1.5 text-lg text-ink ${isWrong ? 'border-problem' : 'border-faint focus:border-ink'}`}
          />
        )}
      </label>
      <span className="text-xs text-quiet">{inNoteNames(field.hint)}</span>
      {field.takesTaps && <Taps onText={onText} />}
      {field.takesRecording && <Recording onText={onText} />}
    </div>
  );
}

/** One of a few words; what was typed before and is none of them is shown too. */
function Choice({ field, text, onText }: Omit<FieldLineProps, 'isWrong'>) {
  const { choices = [] } = field;
  return (
    <select
      value={text}
      onChange={({ target }) => onText(target.value)}
      className="w-full min-w-0 rounded-lg border-2 border-faint bg-ground px-2 py-1.5 text-lg text-ink"
    >
      {[...choices, ...(choices.includes(text) ? [] : [text])].map((choice) => (
        <option key={choice}>{choice}</option>
      ))}
    </select>
  );
}

/** A pause longer than this begins anew. */
const PAUSE_MS = 2500;

/** Taps of a finger or a key, as milliseconds from the first; strong ones with "!" after them. */
function Taps({ onText }: { readonly onText: (text: string) => void }) {
  const [taps, setTaps] = useState<readonly TappedNote[]>([]);
  const tap = (isStrong: boolean, ms: number) => {
    const last = taps.at(-1);
    const tapped = [...(last && ms - last.ms < PAUSE_MS ? taps : []), { ms, isStrong }];
    setTaps(tapped);
    onText(strokesText(tapped));
  };
  const tapAct = (key: string, isStrong: boolean, rest: Pick<Act, 'id' | 'name' | 'label'>): Act => ({
    ...rest,
    key,
    group: 'Bench',
    isTimed: true,
    does: (_, atMs = performance.now()) => tap(isStrong, atMs),
  });
  const acts = [
    tapAct('t', false, { id: 'bench.tap', name: 'tap', label: 'Tap' }),
    tapAct('y', true, { id: 'bench.strong', name: 'tap a strong beat', label: 'Tap strong' }),
  ];
  useActs('panel', acts);
  return (
    <span className="flex gap-2">
      {acts.map((act) => (
        <ActButton key={act.id} act={act} />
      ))}
    </span>
  );
}
