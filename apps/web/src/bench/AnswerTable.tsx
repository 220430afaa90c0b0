import type { BenchAnswer } from '@anchorbeat/core';

/** Rows and columns where there is room, else a row after another with the names of its cells. */
export function AnswerTable({ table }: { readonly table: NonNullable<BenchAnswer['table']> }) {
  const { head, rows } = table;
  return (
    <table className="numeral mt-5 max-w-5xl border-collapse text-left max-[47.99rem]:block">
      <thead className="max-[47.99rem]:sr-only">
        <tr>
          {head.map((name) => (
            <th key={name} className="border-b-2 border-faint py-1 pr-6 text-sm font-semibold text-quiet">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="max-[47.99rem]:block">
        {rows.map((row, index) => (
          <tr
            key={index}
            className="border-b border-faint max-[47.99rem]:flex max-[47.99rem]:flex-wrap max-[47.99rem]:gap-x-4 max-[47.99rem]:py-1.5"
          >
            {row.map((cell, column) => (
              <td key={column} className="py-1 pr-6 max-[47.99rem]:p-0">
                <span className="mr-1 text-sm text-quiet min-[48rem]:hidden">{head[column]}</span>
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
