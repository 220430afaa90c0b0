import { BENCH_TOOLS, usualFields, type BenchTool } from '@anchorbeat/core';
import { CommandError, csvRow, type Command, type CommandContext } from '../command.ts';

/** The sums of the Bench: answers first, then the table as CSV. */
export const bench: Command = {
  name: 'bench',
  usage: 'bench TOOL [FIELD=TEXT …]',
  says: `a sum of the Bench (${BENCH_TOOLS.map(({ id }) => id).join(', ')}): sentences, then its table as CSV; fields not named hold the example`,
  run: (context) => {
    const tool = toolNamed(context);
    const typed = { ...usualFields(tool), ...typedFields(tool, context.positionals.slice(1)) };
    const answer = tool.work(typed);
    if (!answer.ok) throw new CommandError(answer.problem.message);
    const { says, table } = answer.value;
    for (const line of says) context.print(`${line}\n`);
    if (table) for (const row of [table.head, ...table.rows]) context.print(csvRow(row));
    return 0;
  },
};

function toolNamed({ positionals: [id] }: CommandContext): BenchTool {
  const found = BENCH_TOOLS.find((tool) => tool.id === id);
  if (found) return found;
  throw new CommandError(`Name a tool: ${BENCH_TOOLS.map((tool) => tool.id).join(', ')}`);
}

function typedFields({ fields }: BenchTool, words: readonly string[]): Readonly<Record<string, string>> {
  return Object.fromEntries(
    words.map((word) => {
      const at = word.indexOf('=');
      const id = word.slice(0, at);
      if (fields.some((field) => field.id === id)) return [id, word.slice(at + 1)];
      throw new CommandError(
        `"${word}" names no field: ${fields.map((field) => `${field.id}=${field.usual}`).join(' ')}`,
      );
    }),
  );
}
