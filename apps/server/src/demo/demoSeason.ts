import type { SaveDateRequest } from '@anchorbeat/contract';

const NO_WISHES = { pinned: [], skipped: [], order: [], minutes: [] };

/** Rehearsals of the weeks to come and a concert, counted from a day on which somebody looks at the demo. */
export function demoDates(today: Date): readonly SaveDateRequest[] {
  const at = (days: number, time: string) => {
    const day = new Date(today.getFullYear(), today.getMonth(), today.getDate() + days);
    const two = (value: number) => String(value).padStart(2, '0');
    return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}T${time}`;
  };
  const date = (days: number, more: Partial<SaveDateRequest>): SaveDateRequest => ({
    kind: 'rehearsal',
    title: 'Harbour hall',
    at: at(days, '19:30'),
    minutes: 75,
    absent: [],
    pieceIds: [],
    goalPercent: 100,
    wishes: NO_WISHES,
    done: [],
    note: '',
    ...more,
  });
  return [
    date(1, { minutes: 45 }),
    date(4, { title: 'Without the drums', absent: ['Drums'], minutes: 60 }),
    date(8, {}),
    date(15, { title: 'Dress rehearsal', minutes: 120 }),
    date(16, { kind: 'concert', title: 'Lantern night', at: at(16, '20:00'), minutes: 60 }),
  ];
}
