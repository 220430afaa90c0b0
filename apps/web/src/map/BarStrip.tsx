import type { BarSpan, Proof } from '@anchorbeat/core';
import { ActHint } from '../acts/ActButton.tsx';
import { EquivalenceText } from '../line/NoteText.tsx';
import type { LineLayout } from '@anchorbeat/drawing';
import { barFacts, spanTitle } from './barFacts.ts';
import { BarActs } from './MapHeader.tsx';
import type { MapActs } from './mapActs.ts';

interface BarStripProps {
  readonly proof: Proof;
  readonly layout: LineLayout | null;
  readonly span: BarSpan;
  readonly acts: MapActs;
}

/** What stands in the selected bars, in words, under the line; on small screens with what is done to them most. */
export function BarStrip({ proof: { piece, compiled }, layout, span, acts }: BarStripProps) {
  const carry = span.count === 1 ? layout?.seamsByBar.get(span.from)?.carry : undefined;
  return (
    <footer
      className="shrink-0 border-t border-faint px-3 py-1.5 @3xl:px-6 print:hidden"
      data-testid="bar-strip"
    >
      <div className="flex min-w-0 items-baseline gap-x-3 text-[0.95rem]">
        <b className="numeral shrink-0">{spanTitle(piece, span)}</b>
        {carry && (
          <span className="shrink-0 font-semibold text-carry">
            <EquivalenceText equivalence={carry} />
          </span>
        )}
        <span className="min-w-0 truncate text-quiet">{barFacts(piece, compiled, span).join(' · ')}</span>
        {acts.undo.may && (
          <span className="ml-auto shrink-0 self-center @3xl:hidden">
            <ActHint act={acts.undo} />
          </span>
        )}
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-1 @3xl:hidden [&_button]:flex-auto [&_button]:justify-center [&_button]:text-[0.8rem] [&_button]:px-1 [&_kbd]:hidden">
        <BarActs acts={acts} />
      </div>
    </footer>
  );
}
