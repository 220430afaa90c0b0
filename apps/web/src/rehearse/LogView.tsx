import { howMany } from '@anchorbeat/core';
import type { DateResponse } from '@anchorbeat/contract';
import { useMemo, useState } from 'react';
import { keptSheetSettings } from '../handout/sheetChoice.ts';
import { useSheetTask } from '../handout/useSheetTask.ts';
import { Button } from '../ui/Button.tsx';
import { download } from '../ui/download.ts';
import { TextField } from '../ui/TextField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { csvOf, logExtract, markdownOf, reportOf, type LogChoice, type LogLine } from './logLines.ts';
import type { ProgrammePiece } from './useProgramme.ts';
import { lazyPart } from '../ui/lazyNamed.tsx';

const MOST_SHOWN = 400;

/** Charts are loaded where something was run. */
const LogCharts = lazyPart('LogCharts', () => import('./LogCharts.tsx'));

interface LogViewProps {
  readonly programme: readonly ProgrammePiece[] | null;
  readonly dates: readonly DateResponse[];
  /** Of the ensemble. */
  readonly sections: readonly string[];
}

const EVERYTHING: LogChoice = { sought: '', pieceId: null, section: null };

/** Every run of every piece, newest first, found by any word; a report of them to keep. */
export function LogView({ programme, dates, sections }: LogViewProps) {
  const [choice, setChoice] = useState(EVERYTHING);
  const { lines, runs, seams } = useMemo(
    () => logExtract(programme ?? [], dates, choice),
    [programme, dates, choice],
  );
  const change = (changes: Partial<LogChoice>) => setChoice({ ...choice, ...changes });
  const pieces = (programme ?? []).map(({ toPlan }) => ({ value: toPlan.pieceId, name: toPlan.title }));
  return (
    <section aria-label="Log" className="min-h-0 flex-1 overflow-y-auto px-4 py-3 @3xl:px-8">
      <LogHead choice={choice} onChange={change} found={lines} runs={runs.length} />
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {pieces.length > 1 && (
          <ToggleGroup
            label="Piece"
            options={pieces}
            isOn={(id) => choice.pieceId === id}
            onToggle={(id) => change({ pieceId: choice.pieceId === id ? null : id })}
          />
        )}
        {sections.length > 0 && (
          <ToggleGroup
            label="Section"
            options={sections.map((section) => ({ value: section, name: section }))}
            isOn={(section) => choice.section === section}
            onToggle={(section) => change({ section: choice.section === section ? null : section })}
          />
        )}
      </div>
      {runs.length > 0 && <LogCharts seams={seams} runs={runs} />}
      {lines.length === 0 ? (
        <p className="mt-6 text-lg text-quiet">
          {choice === EVERYTHING ? 'Nothing was run yet.' : 'Nothing in the log has all of this.'}
        </p>
      ) : (
        <table className="mt-4 w-full text-left @max-3xl:block" aria-label="Newest first">
          <thead className="text-sm text-quiet @max-3xl:hidden">
            <tr>
              {['day', 'piece', 'where', 'tempo', 'mark', 'played along', 'who', 'note'].map((name) => (
                <th key={name} scope="col" className="pr-3 font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="@max-3xl:block">
            {lines.slice(0, MOST_SHOWN).map((line) => (
              <tr
                key={line.id}
                className="border-t border-faint align-baseline @max-3xl:flex @max-3xl:flex-wrap @max-3xl:items-baseline @max-3xl:py-1"
              >
                <td className="numeral py-1 pr-3 whitespace-nowrap">
                  {line.day} <span className="text-quiet">{line.time}</span>
                </td>
                <td className="pr-3">{line.piece}</td>
                <td className="pr-3 whitespace-nowrap">{line.place}</td>
                <td className="numeral pr-3 whitespace-nowrap">{line.tempo}</td>
                <td className={`pr-3 ${line.mark === 'good' ? 'font-semibold text-carry-text' : ''}`}>
                  {line.mark}
                </td>
                <td className="pr-3">{line.take}</td>
                <td className="pr-3">{line.who}</td>
                <td className="pr-3">{line.note}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

interface LogHeadProps {
  readonly choice: LogChoice;
  readonly onChange: (changes: Partial<LogChoice>) => void;
  readonly found: readonly LogLine[];
  /** How many of them are runs. */
  readonly runs: number;
}

/** Finds runs by their words, and keeps what is found as a file. */
function LogHead({ choice, onChange, found, runs }: LogHeadProps) {
  const { make } = useSheetTask();
  const { sought } = choice;
  const others = found.length - runs;
  return (
    <div className="flex flex-wrap items-end gap-4">
      <div className="w-72 max-w-full">
        <TextField
          labelStands="above"
          label="Find: a piece, bar, mark or any word"
          value={sought}
          onText={(text) => onChange({ sought: text })}
        />
      </div>
      <p className="pb-2 text-quiet">
        {howMany(runs, 'run')}
        {others > 0 && ` · ${others} of plans and corrections`}
      </p>
      <span className="flex flex-wrap gap-3 sm:ml-auto">
        <Button onClick={() => download([csvOf(found)], 'rehearsal-log.csv', 'text/csv')}>CSV</Button>
        <Button onClick={() => download([markdownOf(found)], 'rehearsal-log.md', 'text/markdown')}>
          Markdown
        </Button>
        <Button
          onClick={() =>
            void make(
              { kind: 'pages', document: reportOf(found, sought, keptSheetSettings.get().paper) },
              savePdf,
            )
          }
        >
          PDF
        </Button>
      </span>
    </div>
  );
}

function savePdf(bytes: Uint8Array<ArrayBuffer>): void {
  download([bytes], 'rehearsal-log.pdf', 'application/pdf');
}
