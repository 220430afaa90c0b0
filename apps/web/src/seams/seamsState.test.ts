import { expect, test } from '@jest/globals';
import { PLAIN_DRILL, PLAIN_LADDER } from '@anchorbeat/core';
import { FIRST_SEAMS, seamsAfter, type SeamsAction, type SeamsState } from './seamsState.ts';

const after = (...actions: SeamsAction[]): SeamsState => actions.reduce(seamsAfter, FIRST_SEAMS);

test('one key goes through the sections and back to all of them', () => {
  const sections = ['Bells', 'Reeds'];
  const next: SeamsAction = { kind: 'nextSection', sections };
  expect(
    [1, 2, 3].map((times) => after(...Array.from({ length: times }, () => next)).wishes.section),
  ).toEqual(['Bells', 'Reeds', null]);
});

test('a kept drill is opened as it was, with the filters lifted that would hide it', () => {
  const drill = { ...PLAIN_DRILL, percent: 70 };
  const place = { kind: 'seam', barIndex: 4, label: '5', bars: 0 } as const;
  const narrowed = after(
    { kind: 'nextOrder' },
    { kind: 'nextKind', kinds: ['pulse kept', 'odd bar'] },
    { kind: 'nextRehearsed' },
  );
  const opened = seamsAfter(narrowed, {
    kind: 'opened',
    bar: 6,
    drill: { place, drill, ladder: null, way: 'clap' },
  });
  expect(opened).toMatchObject({ chosenBar: 6, view: 'off', way: 'clap', drill });
  expect(opened.wishes).toEqual({ ...FIRST_SEAMS.wishes, order: narrowed.wishes.order });
});

test('a ladder opens as a ladder; bars keep the filters', () => {
  const place = { kind: 'bars', barIndex: 4, label: '5', bars: 2 } as const;
  const ladder = { ...PLAIN_LADDER, goalPercent: 110 };
  const narrowed = after({ kind: 'nextKind', kinds: ['pulse kept', 'odd bar'] });
  const opened = seamsAfter(narrowed, {
    kind: 'opened',
    bar: 4,
    drill: { place, drill: PLAIN_DRILL, ladder, way: 'play' },
  });
  expect(opened).toMatchObject({ view: 'ladder', ladder, wishes: narrowed.wishes, way: 'speak' });
});
