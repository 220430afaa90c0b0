import { DRILL_WAYS, drillSpanMaybe, promptFor, WAYS, type DrillWay } from '@anchorbeat/core';
import { useState } from 'react';
import { useProof } from '../app/PieceLayout.tsx';
import { Button } from '../ui/Button.tsx';
import { KeyHint } from '../ui/KeyHint.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import type { Target } from './target.ts';
import type { Drilling } from './useDrill.ts';

const OFF_WAYS = DRILL_WAYS.filter((way) => way !== 'play');
const RATINGS = ['1', '2', '3', '4', '5'] as const;

interface OffViewProps {
  readonly target: Target;
  readonly drilling: Drilling;
  readonly way: DrillWay;
  readonly onWay: (way: DrillWay) => void;
}

/** The same place with voice, hands and feet: what each bar wants, said before the count-off, rated before and after. */
export function OffView({ target, drilling, way, onWay }: OffViewProps) {
  const { piece, compiled } = useProof();
  const [before, setBefore] = useState<number | null>(null);
  const { drill, isRunning, last } = drilling;
  const shown = way === 'play' ? 'speak' : way;
  const { name, does, caution, click, spoken } = WAYS[shown];
  const span = drillSpanMaybe(compiled, target.place, drill.context);
  const bars = Array.from(
    { length: span ? span.to - span.from : 0 },
    (_, index) => piece.bars[compiled.timeline.route.barIndex[(span?.from ?? 0) + index] ?? 0],
  ).filter((bar) => bar !== undefined);
  /** Before anything was run off the instruments it says how it went before, after it how it goes now. */
  const isAfter = last !== null && last.way !== 'play';
  const rate = (rating: number) => (isAfter ? drilling.amend({ ratingAfter: rating }) : setBefore(rating));
  const acts: Readonly<Record<string, () => void>> = {
    ' ': () =>
      isRunning
        ? drilling.stop()
        : void drilling.start({ drill: { ...drill, click, spoken }, way: shown, ratingBefore: before }),
    w: () => onWay(OFF_WAYS[(OFF_WAYS.indexOf(shown) + 1) % OFF_WAYS.length] ?? 'speak'),
    '[': () => drilling.change({ percent: drill.percent - 5 }),
    ']': () => drilling.change({ percent: drill.percent + 5 }),
    g: () => drilling.mark('good'),
    a: () => drilling.mark('again'),
  };
  useKeys(({ key, command }) => {
    if (command) return false;
    if (/^[1-5]$/.test(key)) rate(Number(key));
    else if (acts[key]) acts[key]();
    else return false;
    return true;
  });
  return (
    <section aria-label="Off the instruments">
      <div className="flex flex-wrap gap-3">
        {OFF_WAYS.map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={each === shown}
            onClick={() => onWay(each)}
            className={`rounded-xl border-2 px-4 py-3 text-left text-xl font-semibold ${each === shown ? 'border-ink bg-selection' : 'border-faint text-quiet'}`}
          >
            {WAYS[each].name}
          </button>
        ))}
        <KeyHint keyName="w" label="next way" onPress={acts['w'] as () => void} />
      </div>
      <p className="mt-4 text-xl">{does}</p>
      <ol className="mt-3 grid gap-1" aria-label={`${name}, bar by bar`}>
        {promptFor(shown, bars).map((prompt, index) => (
          <li key={index} className="numeral text-3xl font-semibold">
            {prompt}
          </li>
        ))}
      </ol>
      {caution && (
        <p className="mt-4 rounded-lg border-l-4 border-entry bg-raised px-4 py-2.5" role="note">
          {caution}
        </p>
      )}
      <div className="mt-5 flex flex-wrap items-center gap-3">
        <Button filled onClick={acts[' ']} className="flex items-center gap-2">
          <kbd className="rounded border border-current px-1.5 text-xs">space</kbd>
          {isRunning ? 'Stop' : name}
        </Button>
        <KeyHint keyName="[" label="" onPress={acts['['] as () => void} />
        <KeyHint keyName="]" label={`${Math.round(drill.percent)} %`} onPress={acts[']'] as () => void} />
        <KeyHint keyName="g" label="good" onPress={acts['g'] as () => void} />
        <KeyHint keyName="a" label="again" onPress={acts['a'] as () => void} />
      </div>
      <div className="mt-5 grid gap-2">
        <ToggleGroup
          label="How it went before, 1 to 5"
          options={RATINGS.map((value) => ({ value, name: value }))}
          isOn={(value) =>
            String(last?.way !== 'play' && last ? (last.ratingBefore ?? '') : (before ?? '')) === value
          }
          onToggle={(value) => setBefore(Number(value))}
        />
        {isAfter && (
          <ToggleGroup
            label="How it goes now, 1 to 5"
            options={RATINGS.map((value) => ({ value, name: value }))}
            isOn={(value) => String(last.ratingAfter ?? '') === value}
            onToggle={(value) => drilling.amend({ ratingAfter: Number(value) })}
          />
        )}
        <p className="text-[0.9rem] text-quiet">
          {isAfter
            ? 'Play it once more on the instruments, then say how it goes now.'
            : 'Play it once, say how it went, then put the instruments down.'}
        </p>
      </div>
    </section>
  );
}
