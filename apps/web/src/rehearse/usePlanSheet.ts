import type { DateResponse } from '@anchorbeat/contract';
import type { Plan } from '@anchorbeat/core';
import { fileNameOf } from '@anchorbeat/formats';
import { planDocument, PLAIN_SHEET } from '@anchorbeat/sheets';
import type { Act } from '../acts/act.ts';
import { keptSheetSettings } from '../handout/sheetChoice.ts';
import { useSheetTask } from '../handout/useSheetTask.ts';
import { download } from '../ui/download.ts';
import { whenText } from './season.ts';

/** Saves the order of work as a sheet, on the paper that sheets are printed on. */
export function usePlanSheet(
  ensemble: string,
  date: DateResponse,
  plan: Plan | null,
  done: DateResponse['done'],
): Act {
  const { make } = useSheetTask();
  const save = () => {
    if (!plan) return;
    const { title, minutes, absent } = date;
    const toPrint = { ensemble, when: whenText(date), title, minutes, absent, plan, done };
    const document = planDocument(toPrint, { ...PLAIN_SHEET, paper: keptSheetSettings.get().paper });
    const name = `${fileNameOf(`plan-${date.at.slice(0, 10)}`)}.pdf`;
    void make({ kind: 'pages', document }, (bytes) => download([bytes], name, 'application/pdf'));
  };
  return {
    id: 'plan.sheet',
    key: 's',
    name: 'save the plan as a sheet (PDF)',
    label: 'Save as PDF',
    group: 'Plan',
    may: plan !== null,
    does: save,
  };
}
