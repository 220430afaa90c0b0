import { BENCH_TOOLS, usualFields, type BenchTool } from '@anchorbeat/core';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import type { Act } from '../acts/act.ts';
import { ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useKept } from '../kept/kept.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { AnswerView } from './AnswerView.tsx';
import { FieldLine } from './FieldLine.tsx';
import { keptFields } from './keptFields.ts';

/** The sums directors do on the backs of envelopes, one tool at a time. */
export function BenchScreen() {
  usePlaceTheme('desk');
  const [search, setSearch] = useSearchParams();
  const tool = BENCH_TOOLS.find(({ id }) => id === search.get('tool')) ?? BENCH_TOOLS[0];
  const acts = BENCH_TOOLS.map(({ id, name }, index): Act => ({
    id: `bench.${id}`,
    key: String(index + 1),
    name: `to the tool ${name.toLowerCase()}`,
    label: name,
    group: 'Bench',
    does: () => setSearch({ tool: id }, { replace: true }),
  }));
  useActs('screen', acts);
  return (
    <main className="@container h-full overflow-y-auto px-4 py-4 sm:px-8 sm:py-6">
      <h1 className="text-4xl font-bold">Bench</h1>
      <nav aria-label="Tools" className="mt-2 flex flex-wrap gap-x-4 gap-y-1.5">
        {acts.map((act, index) => (
          <ActHint key={act.id} act={act} isOn={BENCH_TOOLS[index] === tool} />
        ))}
      </nav>
      <ToolCard key={tool.id} tool={tool} />
    </main>
  );
}

function ToolCard({ tool }: { readonly tool: BenchTool }) {
  const [kept, keep] = useKept(keptFields);
  const typed = useMemo(() => kept[tool.id] ?? usualFields(tool), [kept, tool]);
  const result = useMemo(() => tool.work(typed), [tool, typed]);
  const set = (id: string, text: string) => keep({ ...kept, [tool.id]: { ...typed, [id]: text } });
  const again: Act = {
    id: 'bench.again',
    key: 'z',
    name: 'the example again',
    group: 'Bench',
    does: () => keep({ ...kept, [tool.id]: usualFields(tool) }),
  };
  useActs('view', [again]);
  return (
    <section aria-label={tool.name} className="mt-5">
      <p className="max-w-3xl text-lg text-quiet">{tool.says}</p>
      <form
        className="mt-4 flex flex-wrap items-start gap-x-5 gap-y-3"
        onSubmit={(event) => event.preventDefault()}
      >
        {tool.fields.map((field) => (
          <FieldLine
            key={field.id}
            field={field}
            text={typed[field.id] ?? ''}
            isWrong={!result.ok && result.problem.field === field.id}
            onText={(text) => set(field.id, text)}
          />
        ))}
        <span className="self-end pb-2">
          <ActHint act={again} />
        </span>
      </form>
      {result.ok ? (
        <AnswerView answer={result.value} />
      ) : (
        <p role="alert" className="mt-6 border-l-4 border-problem pl-3 text-lg">
          {result.problem.message}
        </p>
      )}
    </section>
  );
}
