import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { Kept } from '../kept/kept.ts';
import { pressName, shownKey, type Act, type ActLayer } from './act.ts';
import { ActRegistry } from './actRegistry.ts';
import { foundActs } from './foundActs.ts';
import { pressOfMaybe } from './pressOf.ts';
import { actOfKeyMaybe, keyOf, PLAIN_KEYS, withKey, type OwnKeys } from './ownKeys.ts';

const act = (id: string, key: string, more: Partial<Act> = {}): Act => ({
  id,
  key,
  name: `does ${id}`,
  group: 'Test',
  does: () => undefined,
  ...more,
});
const keyPress = (key: string, more = {}) => ({ key, shift: false, command: false, ...more });

/** A registry with groups, and what was done by a press. */
function registryOf(groups: ReadonlyArray<readonly [ActLayer, readonly Act[], ((key: string) => boolean)?]>) {
  const registry = new ActRegistry();
  const done: string[] = [];
  for (const [layer, acts, takes] of groups)
    registry.register(Symbol(layer), {
      layer,
      acts: acts.map((each) => ({ ...each, does: () => void done.push(each.id) })),
      takesKey: takes && (({ key }) => takes(key)),
    });
  const press = (key: string, settings = PLAIN_KEYS, more = {}) => {
    done.length = 0;
    const isTaken = registry.press(keyPress(key, more), settings);
    return [...done, ...(isTaken && done.length === 0 ? ['taken'] : [])].join(' ');
  };
  return { registry, press };
}

describe('which act a key is for', () => {
  test('what is nearer comes first, and what may not be done now lets the key go on', () => {
    const { press } = registryOf([
      ['panel', [act('panel.next', 'c', { may: false }), act('panel.fix', 'f')]],
      ['screen', [act('screen.checks', 'c'), act('screen.fade', 'f')]],
      ['app', [act('app.shelf', 'S')]],
    ]);
    expect([press('c'), press('f'), press('S'), press('x')]).toEqual([
      'screen.checks',
      'panel.fix',
      'app.shelf',
      '',
    ]);
  });

  test('text being typed takes keys before any act does', () => {
    const { press } = registryOf([
      ['typing', [], (key) => /^\d$/.test(key)],
      ['screen', [act('screen.one', '1'), act('screen.two', 'q')]],
    ]);
    expect([press('1'), press('q')]).toEqual(['taken', 'screen.two']);
  });

  test('with a command key it is another key', () => {
    const { press } = registryOf([
      ['screen', [act('undo', 'ctrl+z'), act('redo', 'ctrl+Z'), act('letter', 'z')]],
    ]);
    expect([
      press('z'),
      press('z', PLAIN_KEYS, { command: true }),
      press('Z', PLAIN_KEYS, { command: true, shift: true }),
      press('y', PLAIN_KEYS, { command: true }),
    ]).toEqual(['letter', 'undo', 'redo', '']);
  });

  test('a key of another script that was given to an act is its own, whatever stands in its place', () => {
    const { press } = registryOf([['screen', [act('loop', 'l'), act('fade', 'f')]]]);
    const russian = { acts: 'f' };
    expect(press('а', PLAIN_KEYS, russian)).toBe('fade');
    expect(press('а', { own: { loop: 'а' }, singleKeys: true }, russian)).toBe('loop');
  });

  test('single characters can be turned off; space, arrows and pedals go on', () => {
    const { press } = registryOf([
      ['screen', [act('run', ' ', { pedal: 'right pedal' }), act('loop', 'l'), act('on', 'ArrowRight')]],
    ]);
    const off = { own: {}, singleKeys: false };
    expect([press('l', off), press(' ', off), press('ArrowRight', off), press('pedal 64', off)]).toEqual([
      '',
      'run',
      'on',
      'run',
    ]);
  });

  test('a key that is held does again what it is for, but not what is timed', () => {
    const { press } = registryOf([['screen', [act('slower', '['), act('tap', 't', { isTimed: true })]]]);
    const held = { repeat: true };
    expect([press('['), press('[', PLAIN_KEYS, held)]).toEqual(['slower', 'slower']);
    expect([press('t'), press('t', PLAIN_KEYS, held)]).toEqual(['tap', 'taken']);
  });

  test('pedals and page turners act without being taught; taught otherwise, they do that', () => {
    const acts = [
      act('run', ' ', { pedal: 'right pedal' }),
      act('cue', 'c', { pedal: 'left pedal' }),
      act('loop', 'l'),
    ];
    const of = (key: string, own: OwnKeys = {}) => actOfKeyMaybe(acts, key, own)?.id ?? null;
    expect([of('pedal 64'), of('PageUp'), of('pad 38')]).toEqual(['run', 'cue', null]);
    const own = withKey(acts, withKey(acts, {}, acts[2]!, 'pedal 64'), acts[1]!, 'pad 38');
    expect([of('pedal 64', own), of('pad 38', own), of(' ', own), of('l', own), of('c', own)]).toEqual([
      'loop',
      'cue',
      'run',
      null,
      null,
    ]);
  });

  test('every act keeps a key of its own however keys are exchanged; one may be given none', () => {
    const acts = [...'abcdefghij'].map((key) => act(`act ${key}`, key));
    // An act, and the key it is given: that of another act, or one that is nobody's.
    const place = fc.integer({ min: 0, max: acts.length - 1 });
    const given = fc.oneof(
      place,
      fc.integer({ min: 0, max: 11 }).map((number) => `F${number}`),
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(place, given), { maxLength: 30 }), (exchanges) => {
        let own: OwnKeys = {};
        const all = () => acts.map((each) => keyOf(each, own));
        for (const [at, of] of exchanges) {
          const [chosen, key] = [acts[at]!, typeof of === 'number' ? all()[of]! : of];
          own = withKey(acts, own, chosen, key);
          expect(keyOf(chosen, own)).toBe(key);
          expect(new Set(all()).size).toBe(acts.length);
          for (const each of acts) expect(actOfKeyMaybe(acts, keyOf(each, own), own)).toBe(each);
        }
      }),
      { seed: 11 },
    );
    const own = withKey(acts, {}, acts[0]!, '');
    expect([actOfKeyMaybe(acts, 'a', own), actOfKeyMaybe(acts, '', own)]).toEqual([null, null]);
  });
});

test('what was taken back can no longer be done', () => {
  const registry = new ActRegistry();
  const owner = Symbol();
  registry.register(owner, { layer: 'view', acts: [act('view.run', ' ')] });
  expect(registry.find('view.run')).toBeDefined();
  registry.remove(owner);
  expect([registry.find('view.run'), registry.press(keyPress(' '), PLAIN_KEYS)]).toEqual([undefined, false]);
});

test('acts are found by their words and by their keys, as shown', () => {
  const acts = [
    act('podium.loop', 'l', { name: 'loop: the selected bars', group: 'Loop' }),
    act('podium.place', 'g', { name: 'go to a bar or mark' }),
    act('map.drill', 'D', { name: 'drill the selected bars' }),
    act('run', ' ', { name: 'count me in' }),
  ];
  const found = (sought: string) => foundActs(acts, sought).map(({ id }) => id);
  expect([found('selected bars'), found('⇧d'), found('space'), found('  '), found('waltz')]).toEqual([
    ['podium.loop', 'map.drill'],
    ['map.drill'],
    ['run'],
    acts.map(({ id }) => id),
    [],
  ]);
});

test.each([
  [keyPress('D', { shift: true }), 'D', '⇧D'],
  [keyPress('Z', { shift: true, command: true }), 'ctrl+Z', 'ctrl ⇧ z'],
  [keyPress('-'), '-', '−'],
  [keyPress('ArrowUp'), 'ArrowUp', '↑'],
])('the press %j is %s, shown as %s', (press, name, shown) => {
  expect(pressName(press)).toBe(name);
  expect(shownKey(name)).toBe(shown);
});

describe('kept settings', () => {
  const textsOf = (text: string | null) => {
    const texts = {
      text,
      get: () => texts.text,
      set: (_key: string, next: string) => void (texts.text = next),
    };
    return texts;
  };
  const numberOf = (stored: unknown) => (typeof stored === 'number' ? stored : 7);

  test('what was kept is there again, and who shows it is told of a change', () => {
    const texts = textsOf(null);
    const kept = new Kept('k', numberOf, texts);
    let told = 0;
    kept.subscribe(() => told++);
    expect(kept.get()).toBe(7);
    kept.set(3);
    expect([kept.get(), told, new Kept('k', numberOf, texts).get()]).toEqual([3, 1, 3]);
  });

  test.each(['{"broken', '"a word"', 'a word'])('what does not read (%s) is as usual', (text) => {
    expect(new Kept('k', numberOf, textsOf(text)).get()).toBe(7);
  });
});

describe('what a key that comes down is pressed for', () => {
  const NONE = { shift: false, ctrl: false, alt: false, altGraph: false, caps: false };
  const nameOf = (key: string, code: string, held: Partial<typeof NONE> = {}) => {
    const { shift, ctrl, alt, altGraph, caps } = { ...NONE, ...held };
    const states = { AltGraph: altGraph, CapsLock: caps } as Record<string, boolean>;
    const press = pressOfMaybe({
      key,
      code,
      shiftKey: shift,
      ctrlKey: ctrl,
      metaKey: false,
      altKey: alt,
      repeat: false,
      getModifierState: (state) => states[state] ?? false,
    });
    return press && pressName(press);
  };

  test.each([
    [
      'a sign that wants AltGr, as a browser on Windows tells it',
      '[',
      'Digit8',
      { ctrl: true, alt: true, altGraph: true },
      '[',
    ],
    ['the same elsewhere', ']', 'Digit9', { altGraph: true }, ']'],
    ['the same with the option key', '[', 'Digit5', { alt: true }, '['],
    ['a menu of the browser', 'f', 'KeyF', { alt: true }, null],
    ['going back in the browser', 'ArrowLeft', 'ArrowLeft', { alt: true }, null],
    ['a letter with caps lock', 'M', 'KeyM', { caps: true }, 'm'],
    ['a capital with caps lock', 'm', 'KeyM', { caps: true, shift: true }, 'M'],
    ['a capital that is sent without shift', 'M', 'KeyM', {}, 'M'],
    ['a letter of a script without capitals', 'מ', 'KeyN', {}, 'n'],
    ['the same with shift', 'מ', 'KeyN', { shift: true }, 'N'],
    ['a Cyrillic letter', 'ь', 'KeyM', {}, 'm'],
    ['a Cyrillic capital', 'Ь', 'KeyM', { shift: true }, 'M'],
    ['Cyrillic, where brackets are', 'х', 'BracketLeft', {}, '['],
    ['a Greek letter, taken back', 'ζ', 'KeyZ', { ctrl: true }, 'ctrl+z'],
    ['a letter of Latin that the alphabet has not', 'ö', 'Semicolon', {}, 'ö'],
    ['French digits, with shift', '7', 'Digit7', { shift: true }, '7'],
    ['a letter that has moved: it goes by what it writes', 'z', 'KeyY', {}, 'z'],
    ['a pedal', 'pedal 64', '', {}, 'pedal 64'],
  ])('%s', (_, key, code, held, name) => expect(nameOf(key, code, held)).toBe(name));
});
