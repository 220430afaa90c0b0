import { describe, expect, test } from '@jest/globals';
import { NEW_DATE } from './season.ts';
import { csvOf, logExtract, markdownOf, type LogChoice } from './logLines.ts';
import { placedRun, type PlacedRun } from '../seams/placedRun.ts';
import { loggedRun } from '../test/loggedRun.ts';

const run = (id: string, startedAt: string, more: object = {}): PlacedRun =>
  placedRun(loggedRun(id, { startedAt, ...more }));

const EBB = run('1', '2026-11-24T19:40:00Z', { note: 'late' });
const REEDS = run('2', '2026-11-24T19:50:00Z', { sections: ['Reeds'], mark: 'again', note: '=1+1' });
const ROPE = run('3', '2026-11-25T19:40:00Z', { barIndex: 3, label: '4', percent: 60 });
const piece = (pieceId: string, runs: readonly PlacedRun[], corrections: readonly object[] = []) =>
  ({
    toPlan: { pieceId, title: pieceId },
    runs,
    seams: [
      { title: `${pieceId}, run`, runs },
      { title: `${pieceId}, never run`, runs: [] },
    ],
    corrections,
  }) as unknown as Parameters<typeof logExtract>[0][number];
const PROGRAMME = [
  piece(
    'ebb',
    [EBB, REEDS],
    [{ place: 'bar 31', was: '7/8', is: '5/8', why: 'misprint', spottedBy: 'Reeds', on: '2026-11-26' }],
  ),
  piece('rope', [ROPE]),
];
const DATES = [
  {
    ...NEW_DATE,
    id: 'd',
    at: '2026-11-27T19:30',
    absent: ['Drums'],
    done: [
      { key: 'ebb:10', title: 'Ebb, into bar 11', planned: 5, seconds: 540 },
      { key: 'rope:3', title: 'Rope, into bar 4', planned: 4, seconds: 200 },
    ],
  },
];
const ALL: LogChoice = { sought: '', pieceId: null, section: null };
const told = (more: Partial<LogChoice>) =>
  logExtract(PROGRAMME, DATES, { ...ALL, ...more }).lines.map(({ kind, place }) => `${kind} ${place}`);

describe('the log', () => {
  test.each<[string, Partial<LogChoice>, string[]]>([
    [
      'tells runs, corrections and what was done of plans, newest first',
      {},
      [
        'plan Rope, into bar 4',
        'plan Ebb, into bar 11',
        'correction bar 31',
        'run into bar 4',
        'run into bar 11',
        'run into bar 11',
      ],
    ],
    ['of a piece', { pieceId: 'rope' }, ['plan Rope, into bar 4', 'run into bar 4']],
    [
      'of a section: what all ran, what it found itself, and no plan of a day on which it was away',
      { section: 'Drums' },
      ['run into bar 4', 'run into bar 11'],
    ],
    ['by its words, wherever they stand', { sought: 'reeds AGAIN' }, ['run into bar 11']],
    ['by what a line is', { sought: 'correction' }, ['correction bar 31']],
    ['by nothing that is there', { sought: 'thunder' }, []],
  ])('%s', (_name, choice, lines) => {
    expect(told(choice)).toEqual(lines);
  });

  test('its charts are of what is shown: a section’s runs, and of seams all, or those that were found', () => {
    const ofDrums = logExtract(PROGRAMME, DATES, { ...ALL, section: 'Drums' });
    expect(ofDrums.runs).toEqual([EBB, ROPE]);
    expect(ofDrums.seams.map((seam) => seam.runs.length)).toEqual([1, 0, 1, 0]);
    const found = logExtract(PROGRAMME, DATES, { ...ALL, sought: 'late' });
    expect(found.seams).toEqual([{ title: 'ebb, run', runs: [EBB] }]);
  });

  test('what was put right on a day that no calendar has stands last, with the day as it was written', () => {
    const [first] = PROGRAMME;
    const torn = { ...first!, corrections: [{ ...first!.corrections[0]!, on: '2026-11-99' }] };
    const { lines } = logExtract([torn], DATES, ALL);
    expect(lines.map(({ kind }) => kind)).toEqual(['plan', 'plan', 'run', 'run', 'correction']);
    expect(lines.at(-1)?.day).toBe('2026-11-99');
  });

  test('is kept as a table in which no cell becomes a formula, and as text', () => {
    const { lines } = logExtract(PROGRAMME, DATES, { ...ALL, pieceId: 'ebb' });
    expect(csvOf(lines).split('\r\n')[0]).toBe('kind,day,time,piece,place,tempo,mark,take,who,note');
    expect(csvOf(lines)).toContain(`,Reeds,"'=1+1"`);
    expect(markdownOf(lines)).toContain('- **ebb**, bar 31: Reeds · 5/8, was 7/8 · misprint');
    expect(markdownOf(lines)).toContain('- **Plan**, Ebb, into bar 11: 9 min of 5 planned, without Drums');
  });
});
