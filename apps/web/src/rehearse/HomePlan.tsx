import {
  MOST_HANDED_LINES,
  MOST_MESSAGE,
  type DateResponse,
  type EnsembleResponse,
} from '@anchorbeat/contract';
import { howMany, MOST_PLAN_MINUTES, planFor, type PieceToPlan, type Plan } from '@anchorbeat/core';
import { useMemo, useState } from 'react';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActHint } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { Button } from '../ui/Button.tsx';
import { copyWords } from '../ui/copyWords.ts';
import { download } from '../ui/download.ts';
import { DialogShell } from '../ui/DialogShell.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { useRoom } from '../room/RoomContext.tsx';
import { useEnteredRoom } from '../together/useRehearsal.ts';
import { homeLines, homeRequestFor } from './season.ts';
import { usePlanSheet } from './usePlanSheet.ts';

const USUAL_MINUTES = 10;

interface HomePlanProps {
  readonly ensemble: EnsembleResponse;
  readonly date: DateResponse;
  readonly dates: readonly DateResponse[];
  readonly pieces: readonly PieceToPlan[];
}

/** What one section, or one player of it, does at home until this date: asked for by a key. */
export function HomePlan(props: HomePlanProps) {
  const [isOpen, setOpen] = useState(false);
  const act: Act = {
    id: 'plan.home',
    key: 'h',
    name: 'ten minutes at home, for one section',
    label: 'at home',
    group: 'Plan',
    may: props.ensemble.sections.length > 0,
    does: () => setOpen(true),
  };
  useActs('view', [act]);
  return (
    <>
      <ActHint act={act} />
      {isOpen && <HomeDialog {...props} onClose={() => setOpen(false)} />}
    </>
  );
}

function HomeDialog({
  ensemble,
  date,
  dates,
  pieces,
  onClose,
}: HomePlanProps & { readonly onClose: () => void }) {
  const [section, setSection] = useState(ensemble.sections[0] ?? '');
  const [minutes, setMinutes] = useState(USUAL_MINUTES);
  const plan = useMemo(
    (): Plan => planFor(homeRequestFor({ date, dates, pieces, minutes }, section)),
    [date, dates, pieces, minutes, section],
  );
  const lines = homeLines(plan);
  const sheetDate = { ...date, title: `${section}, at home`, minutes, absent: [] };
  const { does: saveSheet } = usePlanSheet(ensemble.name, sheetDate, plan, []);
  const copy = async () => {
    const text = [`${section}, at home, ${howMany(minutes, 'minute')}`, ...lines].join('\n');
    toast((await copyWords(text)) ? 'Copied' : 'This browser does not let a page copy');
  };
  const saveEntry = async () => {
    const { homeCalendarOf } = await import('./calendar.ts');
    download([homeCalendarOf(date, section, lines, new Date())], 'at-home.ics', 'text/calendar');
  };
  return (
    <DialogShell
      title="At home"
      description="What gains most for one section until this date, alone and without an instrument warm-up: to be sent, printed, or handed to the stands of a rehearsal."
      width="middle"
      onClose={onClose}
    >
      <div className="mt-4 grid gap-3">
        <ToggleGroup
          label="For"
          options={ensemble.sections.map((value) => ({ value, name: value }))}
          isOn={(value) => value === section}
          onToggle={setSection}
        />
        <NumberField
          label="Minutes"
          value={minutes}
          min={1}
          max={MOST_PLAN_MINUTES}
          onNumber={(value) => setMinutes(Math.round(value))}
        />
        <ol aria-label="At home" className="max-h-[45vh] overflow-y-auto border-t border-faint">
          {lines.map((line) => (
            <li key={line} className="border-b border-faint py-1.5 text-lg">
              {line}
            </li>
          ))}
        </ol>
        {lines.length === 0 && (
          <p className="text-quiet">Nothing of the programme is waiting for {section}: play what you like.</p>
        )}
      </div>
      <div className="mt-5 flex flex-wrap justify-end gap-3">
        <Button onClick={onClose}>Done</Button>
        <Button disabled={lines.length === 0} onClick={() => void copy()}>
          Copy in words
        </Button>
        <Button disabled={lines.length === 0} onClick={() => void saveEntry()}>
          Calendar entry
        </Button>
        <ToStands ensembleId={ensemble.id} section={section} lines={lines} />
        <Button filled disabled={lines.length === 0} onClick={() => saveSheet()}>
          Save as PDF
        </Button>
      </div>
    </DialogShell>
  );
}

interface ToStandsProps {
  readonly ensembleId: string;
  readonly section: string;
  readonly lines: readonly string[];
}

/** Hands it to the stands of the section, while a rehearsal is open. */
function ToStands({ ensembleId, section, lines }: ToStandsProps) {
  const room = useRoom();
  const isOpen = useEnteredRoom(ensembleId);
  const handOut = () =>
    room
      .say('handOut', { section, lines: forStand(lines) })
      .then(() => toast(`The stands of ${section} have it, and keep it`))
      .catch((error: unknown) => toast((error as Error).message));
  if (!isOpen) return null;
  return (
    <Button disabled={lines.length === 0} onClick={() => void handOut()}>
      To their stands
    </Button>
  );
}

/** As much of it as a stand takes; that there is more is said. */
function forStand(lines: readonly string[]): readonly string[] {
  const short = lines.map((line) => line.slice(0, MOST_MESSAGE));
  if (short.length <= MOST_HANDED_LINES) return short;
  const shown = short.slice(0, MOST_HANDED_LINES - 1);
  return [...shown, `and ${short.length - shown.length} more, on the sheet`];
}
