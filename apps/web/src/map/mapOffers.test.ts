import { readPiece, type Edit } from '@anchorbeat/core';
import { expect, test } from '@jest/globals';
import { mapOffers } from './mapOffers.ts';

const reading = readPiece({
  format: 'anchorbeat-piece',
  version: 1,
  title: 'Offers',
  bars: Array.from({ length: 70 }, (_, index) =>
    index === 0 ? { meter: '4/4' } : index === 8 ? { rehearsalMark: 'A' } : {},
  ),
});
if (!reading.ok) throw new Error('the piece does not read');
const { piece } = reading;

test.each([
  ['7/8', ['map.offer.meter']],
  ['66', ['map.offer.tempo', 'map.offer.go']],
  ['q. = 66', ['map.offer.tempo']],
  ['e = e', ['map.offer.equivalence']],
  ['a', ['map.offer.go']],
  ['loop', []],
  ['99999', []],
])('%s offers %j', (sought, ids) => {
  const offers = mapOffers(sought, piece, { from: 3, count: 1 }, { edit: () => {}, go: () => {} });
  expect(offers.map(({ id }) => id)).toEqual(ids);
});

test('an offer writes into the selected bars, or goes where it says', () => {
  const done: Array<Edit | number> = [];
  const does = { edit: (edit: Edit) => void done.push(edit), go: (bar: number) => void done.push(bar) };
  for (const sought of ['7/8', 'A']) mapOffers(sought, piece, { from: 3, count: 2 }, does)[0]!.does();
  expect(done).toEqual([expect.objectContaining({ kind: 'setMeter', from: 3, count: 2 }), 8]);
});
