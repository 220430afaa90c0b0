import { DRILL_CLICKS } from '@anchorbeat/core';
import { Button } from '../ui/Button.tsx';
import { KeyHint } from '../ui/KeyHint.tsx';
import { useKeys } from '../ui/useKeys.ts';
import type { Drilling } from './useDrill.ts';

const PERCENT_STEP = 5;
const ROUNDS: ReadonlyArray<number | null> = [null, 1, 3, 5, 10];

interface DrillControlsProps {
  readonly drilling: Drilling;
  /** A seam needs a bar on either side. */
  readonly fewestContext: 0 | 1;
  readonly name: string;
}

/** The one-key drill: run it, wider or narrower, slower or faster, with what clicks, and its mark. */
export function DrillControls({ drilling, fewestContext, name }: DrillControlsProps) {
  const { drill, change, isRunning } = drilling;
  const { before, after } = drill.context;
  const widen = (by: number) =>
    change({
      context: { before: Math.max(fewestContext, before + by), after: Math.max(fewestContext, after + by) },
    });
  const next = <T,>(list: readonly T[], now: T) => list[(list.indexOf(now) + 1) % list.length] as T;
  const acts: Readonly<Record<string, () => void>> = {
    ' ': () => (isRunning ? drilling.stop() : void drilling.start()),
    '[': () => change({ percent: drill.percent - PERCENT_STEP }),
    ']': () => change({ percent: drill.percent + PERCENT_STEP }),
    '+': () => widen(1),
    '-': () => widen(-1),
    '−': () => widen(-1),
    c: () => change({ click: next(DRILL_CLICKS, drill.click) }),
    u: () => change({ rounds: next(ROUNDS, drill.rounds) }),
    g: () => drilling.mark('good'),
    a: () => drilling.mark('again'),
    PageDown: () => drilling.mark('good'),
    PageUp: () => drilling.mark('again'),
    'pedal 64': () => drilling.mark('good'),
    'pedal 67': () => drilling.mark('again'),
  };
  useKeys(({ key, command }) => {
    const act = command ? undefined : acts[key];
    act?.();
    return act !== undefined;
  });
  const hint = (key: string, label: string) => (
    <KeyHint keyName={key === '-' ? '−' : key} label={label} onPress={acts[key] as () => void} />
  );
  return (
    <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5">
      <Button filled onClick={acts[' ']} className="flex items-center gap-2">
        <kbd className="rounded border border-current px-1.5 text-xs">space</kbd>
        {isRunning ? 'Stop' : name}
      </Button>
      {hint('-', '')}
      {hint('+', before === after ? `${before} either side` : `${before} before, ${after} after`)}
      {hint('[', '')}
      {hint(']', `${Math.round(drill.percent)} %`)}
      {hint('c', `click: ${drill.click}`)}
      {hint(
        'u',
        drill.rounds === null ? 'round and round' : drill.rounds === 1 ? 'once' : `${drill.rounds} times`,
      )}
      <span className="flex basis-full items-center gap-2.5">
        {hint('g', 'good')}
        {hint('a', 'again')}
        <LastMark drilling={drilling} />
      </span>
    </div>
  );
}

/** What the log says of the last run. */
export function LastMark({ drilling: { last, isRunning } }: { readonly drilling: Drilling }) {
  if (!last || isRunning) return null;
  return (
    <span role="status" className="text-[0.9rem] text-quiet">
      logged at {Math.round(last.percent)} %{last.mark && `: ${last.mark}`}
    </span>
  );
}
