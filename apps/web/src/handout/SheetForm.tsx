import { COUNT_SCHOOLS, inNoteNames, sectionsOf, type Proof } from '@anchorbeat/core';
import { PAPER_NAMES, PULSE_DRAWINGS, SHEETS, TYPE_SIZES, type SheetSettings } from '@anchorbeat/sheets';
import { useState } from 'react';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { chosenSheet, type SheetChoice, type SheetReader } from './sheetChoice.ts';

interface SheetFormProps {
  readonly proof: Proof;
  readonly choice: SheetChoice;
  readonly onChoice: (choice: SheetChoice) => void;
}

const named = <Value extends string>(values: readonly Value[]) =>
  values.map((value) => ({ value, name: value }));

/** What is printed, for whom and how. Only what changes anything on the chosen sheet is asked. */
export function SheetForm({ proof, choice, onChoice }: SheetFormProps) {
  const { settings, reader } = choice;
  const { hears } = chosenSheet(choice);
  const set = (changes: Partial<SheetSettings>) =>
    onChoice({ ...choice, settings: { ...settings, ...changes } });
  return (
    <form className="grid min-w-0 gap-3" onSubmit={(event) => event.preventDefault()}>
      <ToggleGroup
        label="Sheet"
        options={SHEETS.map(({ id, name }) => ({ value: id, name }))}
        isOn={(value) => value === choice.sheetId}
        onToggle={(sheetId) => onChoice({ ...choice, sheetId })}
      />
      <p className="text-quiet">{chosenSheet(choice).says}</p>
      {hears.includes('section') && (
        <ReaderChoice
          proof={proof}
          reader={reader}
          onReader={(next) => onChoice({ ...choice, reader: next })}
        />
      )}
      {hears.includes('bars') && <BarsChoice proof={proof} settings={settings} onSpan={set} />}
      {hears.includes('pulse') && (
        <ToggleGroup
          label="Pulse as"
          options={named(PULSE_DRAWINGS)}
          isOn={(value) => value === settings.pulse}
          onToggle={(pulse) => set({ pulse })}
        />
      )}
      {hears.includes('count') && (
        <label className="grid min-w-0 gap-1 text-sm text-quiet">
          Counted in
          <select
            value={settings.countSchool}
            onChange={({ target }) => set({ countSchool: target.value })}
            className="w-full min-w-0 rounded-lg border-2 border-faint bg-ground px-2 py-1 text-base text-ink"
          >
            {COUNT_SCHOOLS.map(({ id, name, example }) => (
              <option key={id} value={id}>
                {inNoteNames(name)}: {example}
              </option>
            ))}
          </select>
        </label>
      )}
      <PaperChoice settings={settings} canWrite={hears.includes('room')} set={set} />
    </form>
  );
}

interface PaperChoiceProps {
  readonly settings: SheetSettings;
  readonly canWrite: boolean;
  readonly set: (changes: Partial<SheetSettings>) => void;
}

function PaperChoice({ settings, canWrite, set }: PaperChoiceProps) {
  const { isSideways, twoToAPage, hasRoomToWrite } = settings;
  const switches = [
    { value: 'sideways', isOn: isSideways, turn: () => set({ isSideways: !isSideways }) },
    { value: 'two to a page', isOn: twoToAPage, turn: () => set({ twoToAPage: !twoToAPage }) },
    ...(canWrite
      ? [
          {
            value: 'room to write',
            isOn: hasRoomToWrite,
            turn: () => set({ hasRoomToWrite: !hasRoomToWrite }),
          },
        ]
      : []),
  ];
  return (
    <>
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        <ToggleGroup
          label="Paper"
          options={named(PAPER_NAMES)}
          isOn={(value) => value === settings.paper}
          onToggle={(paper) => set({ paper })}
        />
        <ToggleGroup
          label="Type"
          options={named(TYPE_SIZES)}
          isOn={(value) => value === settings.type}
          onToggle={(type) => set({ type })}
        />
      </div>
      <ToggleGroup
        label="Page"
        options={named(switches.map(({ value }) => value))}
        isOn={(value) => switches.find((known) => known.value === value)?.isOn === true}
        onToggle={(value) => switches.find((known) => known.value === value)?.turn()}
      />
    </>
  );
}

interface ReaderChoiceProps {
  readonly proof: Proof;
  readonly reader: SheetReader;
  readonly onReader: (reader: SheetReader) => void;
}

function ReaderChoice({ proof, reader, onReader }: ReaderChoiceProps) {
  const sections = sectionsOf(proof.piece);
  if (sections.length === 0) return null;
  const everyone: ReadonlyArray<{ readonly name: string; readonly reader: SheetReader }> = [
    { name: 'director', reader: 'director' },
    ...sections.map((section) => ({ name: section, reader: { section } })),
    { name: 'every section', reader: 'every section' },
  ];
  const isOn = (name: string) => (typeof reader === 'object' ? reader.section === name : reader === name);
  return (
    <ToggleGroup
      label="For"
      options={named(everyone.map(({ name }) => name))}
      isOn={isOn}
      onToggle={(value) => {
        const chosen = everyone.find(({ name }) => name === value);
        if (chosen) onReader(chosen.reader);
      }}
    />
  );
}

interface BarsChoiceProps {
  readonly proof: Proof;
  readonly settings: SheetSettings;
  readonly onSpan: (span: Partial<Pick<SheetSettings, 'from' | 'to'>>) => void;
}

/** From one printed bar number to another; left empty, or with what is no bar, from the beginning and to the end. */
function BarsChoice({ proof, settings, onSpan }: BarsChoiceProps) {
  const { labels } = proof.compiled;
  return (
    <div className="flex flex-wrap items-center gap-3 text-sm text-quiet">
      <BarField label="From bar" labels={labels} onBar={(bar) => onSpan({ from: bar ?? 0 })} least={0} />
      <BarField
        label="to bar"
        labels={labels}
        onBar={(bar) => onSpan({ to: bar === null ? Infinity : bar + 1 })}
        least={settings.from}
      />
    </div>
  );
}

interface BarFieldProps {
  readonly label: string;
  readonly labels: Proof['compiled']['labels'];
  readonly least: number;
  readonly onBar: (barIndex: number | null) => void;
}

function BarField({ label, labels, least, onBar }: BarFieldProps) {
  const [typed, setTyped] = useState('');
  const index = labels.indexOf(typed.trim());
  const isGood = typed.trim() === '' || index >= least;
  return (
    <label className="flex items-center gap-2">
      {label}
      <input
        autoComplete="off"
        maxLength={8}
        value={typed}
        aria-invalid={!isGood}
        title={isGood ? undefined : 'The number of a bar as printed, in order'}
        onChange={({ target }) => {
          setTyped(target.value);
          const text = target.value.trim();
          const bar = labels.indexOf(text);
          onBar(text === '' || bar < 0 ? null : bar);
        }}
        className={`numeral w-16 rounded-lg border-2 bg-ground px-2 py-1 text-lg text-ink ${isGood ? 'border-faint focus:border-ink' : 'border-problem'}`}
      />
    </label>
  );
}
