import { expect, test } from '@jest/globals';
import { PLAIN_KEYS } from '../acts/ownKeys.ts';
import { ActRegistry } from '../acts/actRegistry.ts';
import { allMapActs, mapActs, type MapDoes } from './mapActs.ts';

/** Keys that the checks beside the line answer to. */
const CHECK_KEYS = ['f', 'i', 'j'];

function mapOf(changes: Partial<MapDoes> = {}) {
  const done: string[] = [];
  const tell =
    (name: string) =>
    (...args: unknown[]) =>
      void done.push([name, ...args.filter((arg) => arg !== undefined && typeof arg !== 'object')].join(' '));
  const acts = allMapActs(
    mapActs({
      barCount: 20,
      focusBar: 10,
      span: { from: 9, count: 2 },
      isRunning: false,
      canUndo: true,
      canRedo: false,
      select: tell('select'),
      openEntry: tell('enter'),
      toggleRun: tell('run'),
      deleteSelection: tell('delete'),
      undo: tell('undo'),
      redo: tell('redo'),
      zoom: tell('zoom'),
      fit: tell('fit'),
      toggleTrueTo: tell('true to'),
      foldLanes: tell('lanes'),
      moveBy: tell('move'),
      openPanel: tell('panel'),
      openBuilder: tell('builder'),
      drill: tell('drill'),
      ...changes,
    }),
  );
  const registry = new ActRegistry();
  registry.register(Symbol(), { layer: 'screen', acts });
  const press = (key: string, more = {}) => {
    done.length = 0;
    registry.press({ key, shift: false, command: false, ...more }, PLAIN_KEYS);
    return done.join(', ');
  };
  return { acts, press };
}

test('no key of the map means two things, and every act says what it does', () => {
  const { acts } = mapOf();
  const keys = [...acts.flatMap(({ key, alsoKeys = [] }) => [key, ...alsoKeys]), ...CHECK_KEYS];
  expect(keys.filter((key, index) => keys.indexOf(key) !== index)).toEqual([]);
  expect(new Set(acts.map(({ id }) => id)).size).toBe(acts.length);
  for (const { name } of acts) expect(name).toMatch(/\w{2}/);
});

test.each([
  [' ', {}, 'run'],
  ['m', {}, 'enter meter '],
  ['7', {}, 'enter meter 7'],
  ['(', {}, 'enter meter ('],
  ['t', {}, 'enter tempo '],
  ['Backspace', {}, 'delete'],
  ['z', { command: true }, 'undo'],
  ['Z', { command: true, shift: true }, ''],
  ['c', {}, 'panel checks'],
  ['−', {}, 'zoom -1'],
  ['ArrowLeft', {}, 'select 9 false'],
  ['ArrowDown', { shift: true }, 'select 18 true'],
  ['End', {}, 'select 19 false'],
  ['>', {}, 'move 1'],
  ['D', { shift: true }, 'drill'],
])('the key %s %j: %s', (key, more, expected) => {
  expect(mapOf().press(key, more)).toBe(expected);
});

test('at the ends nothing is moved beyond them', () => {
  const { press } = mapOf({ focusBar: 19, span: { from: 0, count: 20 } });
  expect([press('<'), press('>'), press('ArrowRight')]).toEqual(['', '', 'select 19 false']);
});
