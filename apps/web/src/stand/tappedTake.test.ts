import { expect, test } from '@jest/globals';
import { TappedTake, type Tapped } from './tappedTake.ts';

/** A stand whose line carries nothing at first. */
function standWith(isHeard: () => boolean) {
  const told: Tapped[] = [];
  const take = new TappedTake((tapped) => {
    told.push(tapped);
    return Promise.resolve(isHeard());
  });
  return { told, take };
}

const over = (id: string) => ({ id, isOver: true });
const answered = () => new Promise((resolve) => setImmediate(resolve));

test('what was tapped is told when the run is over, once', async () => {
  const { told, take } = standWith(() => true);
  take.tellUnheard(over('one'));
  take.tap('one', 0.5);
  take.tap('one', 1);
  take.tellUnheard({ id: 'one', isOver: false });
  expect(told).toEqual([]);
  for (let look = 0; look < 3; look++) {
    take.tellUnheard(over('one'));
    await answered();
  }
  expect(told).toEqual([{ runId: 'one', onsets: [0.5, 1] }]);
  take.tap('two', 0.25);
  take.tellUnheard(over('two'));
  expect(told.at(-1)).toEqual({ runId: 'two', onsets: [0.25] });
});

test('what nobody heard is told again, one at a time, until the next run is tapped along with', async () => {
  let isHeard = false;
  const { told, take } = standWith(() => isHeard);
  take.tap('one', 0.5);
  take.tellUnheard(over('one'));
  take.tellUnheard(over('one'));
  expect(told).toHaveLength(1);
  await answered();
  take.tellUnheard(over('one'));
  expect(told).toHaveLength(2);
  await answered();
  isHeard = true;
  take.tellUnheard(over('two'));
  expect(told).toHaveLength(2);
  take.tellUnheard(over('one'));
  await answered();
  take.tellUnheard(over('one'));
  expect(told).toHaveLength(3);
});
