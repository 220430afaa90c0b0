import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { compilePiece } from '../compile/compile.ts';
import { writePiece } from '../document/writePiece.ts';
import { applyEdit } from '../edit/applyEdit.ts';
import { compare, fraction, multiply, toNumber } from '../fraction/fraction.ts';
import { meterLength } from '../meter/meter.ts';
import { formatMeter, parseMeter } from '../meter/text.ts';
import { expectValue } from '../problem/problem.ts';
import { seededRandom } from '../random/seededRandom.ts';
import { rhythmLength } from '../rhythm/rhythm.ts';
import { parseRhythm } from '../rhythm/text.ts';
import { randomPiece } from '../test/randomPiece.ts';
import { BENCH_TOOLS, usualFields } from './tools.ts';
import { fitOnGrid, gridFits, swingRatioMaybe } from './tools/fit.ts';
import { changedPlaces, evenGroups, groupingsOf, groupStarts } from './tools/grouping.ts';
import { likelyBars, parseStrokes } from './tools/meterFinder.ts';
import { overlayOf, placedOnsets } from './tools/overlay.ts';
import { remeteredMaybe, REMETER_WAYS } from './tools/remeter.ts';
import { respelled, respellings } from './tools/respell.ts';
import { chainTempi, folded, parseSteps, shortestChainMaybe } from './tools/tempoChain.ts';

function answered(id: string, typed: Readonly<Record<string, string>>) {
  const tool = BENCH_TOOLS.find((known) => known.id === id)!;
  return expectValue(tool.work({ ...usualFields(tool), ...typed }));
}

const everything = (id: string, typed: Readonly<Record<string, string>>) => {
  const { says, table } = answered(id, typed);
  return [...says, ...(table?.rows ?? []).map((row) => row.join(' | '))].join('\n');
};

test.each([
  ['as in Balkan dances', '5', '2+3'],
  ['as in Balkan dances', '7', '2+2+3'],
  ['as in Balkan dances', '8', '3+2+3'],
  ['as in Balkan dances', '9', '2+2+2+3'],
  ['as in Balkan dances', '11', '2+2+3+2+2'],
  ['as in Balkan dances', '13', '2+2+2+3+2+2'],
  ['as in Latin cycles', '7', '3+2+2'],
  ['as in Latin cycles', '8', '3+3+2'],
  ['as in Latin cycles', '12', '3+3+2+2+2'],
  ['as in Latin cycles', '16', '3+3+3+3+2+2'],
  ['as in jazz', '5', '3+2'],
  ['as in jazz', '7', '4+3'],
  ['as in jazz', '11', '4+4+3'],
  ['as in marches', '6', '3+3'],
  ['as in marches', '7', '4+3'],
  ['as in marches', '8', '4+4'],
  ['as in marches', '12', '4+4+4'],
])('grouped %s, %s small notes are %s', (order, units, first) => {
  const { says } = answered('grouping', { units, unit: '8', order, beside: '' });
  expect(says[0]).toMatch(new RegExp(`^${first.replaceAll('+', '\\+')} comes first`));
  expect(says[1]).toContain(`Usual ${order}: `);
});

describe('worked examples, in plain numbers', () => {
  test.each<[tool: string, typed: Record<string, string>, ...says: string[]]>([
    // 3:2 five times from 80 is 607.5; halved three times 75.9375.
    ['chain', { steps: '3:2 x5' }, '3:2 | 1215/2 | 607.5 | 98.77 | 75.9375', 'Nobody can aim at 67.5'],
    // Up a third and down again: 4:3 after 3:4.
    ['chain', { tempo: 'q = 90', steps: '4:3, 3:4' }, 'From 90 to 90 exactly', 'Comes round after 2 steps'],
    // A triplet quarter becomes the quarter: half as fast again.
    ['chain', { tempo: 'q = 60', steps: 'q3 = q' }, 'triplet quarter = quarter | 90 | 90'],
    // A dotted quarter becomes the half: 4 thirds.
    ['chain', { tempo: 'q = 96', steps: 'q. = h' }, '| 128 | 128 |'],
    ['chain', { tempo: 'q = 90', steps: '', target: 'q = 60' }, 'To 60: 2:3, which gives 60'],
    ['chain', { tempo: 'q = 60', steps: '', target: 'h = 45' }, 'To 90: 3:2, which gives 90'],
    [
      'respell',
      { meter: '6/8', tempo: 'q. = 60' },
      '3/4 | quarter = 90 | 3',
      '12/16 | dotted eighth = 120',
      '2000 ms a bar',
    ],
    ['respell', { meter: '6/8', tempo: 'q. = 60' }, '2/4 | quarter = 60 | 2 | the beat is a plain note'],
    ['respell', { meter: '4/4', tempo: 'q = 120' }, '4/8 | eighth = 120', '2/2 | half = 60'],
    [
      'overlay',
      { notes: '3', meter: '4/4', tempo: 'q = 60' },
      '2 | 1333.3 | 1 | 2 | 1/3 | 1/3 | 0',
      'Accents: x...x...x...',
    ],
    [
      'overlay',
      { notes: '5', meter: '4/4', tempo: 'q = 60' },
      '2 | 800 | 1 | 1 | 4/5',
      '5 in the time of 4 quarters',
    ],
    [
      'overlay',
      { notes: 'every e.', meter: '4/4', bars: '3' },
      'Lands on 1 again after 3 bars',
      'Accents: x..x..x..x..x..x',
    ],
    [
      'overlay',
      { notes: '3+3+2', meter: '4/4', tempo: 'q = 120' },
      'Spoken: 1 2& 4',
      'Accents: x..x..x.',
      '3 | 1500 | 1 | 4 | 0',
    ],
    ['overlay', { notes: 'every q', meter: '7/8 as 2+2+3' }, 'Lands on 1 again after 2 bars'],
    // Nobody knows how long the last tap lasts.
    ['finder', { strokes: '0! 400 800 1400! 1800 2200 2800! 3200 3600' }, '7/8 as 2+2+3: it explains 100 %'],
    ['grouping', { units: '16' }, 'As even as so many groups can be: 8+8, 5+5+6, 4+4+4+4, 3+3+3+3+4'],
    [
      'grouping',
      { units: '7', unit: '8', beside: '' },
      'Two even notes over 7: on 1 and 4.5',
      'Turned round',
    ],
    [
      'grouping',
      { units: '8', unit: '8', order: 'like its neighbour', beside: '3+3+2' },
      '3+3+2 comes first',
    ],
    ['grouping', { units: '7', unit: '8', order: 'long first', beside: '' }, '3+2+2 | 1 4 6'],
    ['grouping', { units: '7', unit: '8', order: 'short first', beside: '' }, '2+2+3 | 1 3 5'],
    [
      'fit',
      { onsets: '0 333 500 833 1000', tempo: 'q = 120' },
      '3 to a beat',
      'q3 e3 q3 e3 q',
      'swung as in triplets',
    ],
    [
      'fit',
      { onsets: '0 250 500 750', tempo: 'q = 120' },
      '2 to a beat: 0 ms',
      'Written: e e e e',
      'straight',
    ],
    ['fit', { onsets: 'e. s q', tempo: 'q = 60' }, '4 to a beat: 0 ms', 'Written: e. s q'],
    ['remeter', {}, 'beat 4 goes', '16 bars last 30 s, before 40 s', 'quarter = 72'],
    ['remeter', { from: '3/4', to: '4/4', way: 'the last beat' }, 'beat 3 comes again as 4', 'quarter = 128'],
    ['finder', {}, 'It is 7/8 as 2+2+3: it explains 100 %'],
    ['finder', { strokes: 'X..X.X.X..X.X.X..X.X.' }, '7/8 as 3+2+2'],
    [
      'finder',
      { strokes: '0! 500 1000 1500! 2000 2500 3000! 3500 4000', unit: '4' },
      '3/4',
      '120 small notes a minute at first',
    ],
    ['finder', { strokes: 'xX.x.X.x.X.x.' }, '1 small note before the first bar'],
    ['tempo', {}, '64 bars last 2:22.22', 'To last 2:40: quarter = 96', '60 | 32.4'],
    [
      'tempo',
      { tempo: 'q. = 66', meter: '6/8', bars: '33', lasts: '' },
      '33 bars last 1:00.00',
      '33 bars a minute',
    ],
    [
      'tempo',
      { tempo: 'e = 120', meter: '3/4', bars: '1', lasts: '' },
      '1 bar lasts 0:03.00',
      'An eighth is 500 ms',
    ],
    ['tempo', { tempo: 'h = 60', meter: '2/2', lasts: '' }, 'A half note is 1000 ms'],
    ['limits', { tempo: 'q = 120', note: 'h' }, '1 half note a second, 1000 ms each'],
    [
      'limits',
      { tempo: 'q = 120', note: 's' },
      '8 sixteenths a second, 125 ms each',
      'single tongue | 7 | 9 | at the limit | 105',
    ],
    [
      'limits',
      { tempo: 'q = 120', note: 's', own: 'single tongue 8-10' },
      'single tongue | 8 | 10 | goes | 120',
    ],
  ])('%s of %j', (tool, typed, ...says) => {
    for (const part of says) expect(everything(tool, typed)).toContain(part);
  });

  test.each<[tool: string, typed: Record<string, string>, says: string]>([
    ['chain', { steps: '3:0' }, 'is no step: write 3:2'],
    ['chain', { most: '60' }, 'at least twice the slowest'],
    ['respell', { meter: '6/x' }, '6/x'],
    ['overlay', { notes: '0' }, 'nothing to lay over a bar'],
    ['overlay', { notes: 'every x', bars: '16' }, 'More than 64 notes'],
    ['grouping', { order: 'nice' }, 'The order is one of'],
    ['fit', { onsets: '500 0' }, 'each later than the one before'],
    ['remeter', { way: 'somehow' }, 'The way is one of'],
    ['finder', { strokes: 'xxxx' }, 'at least two strong beats'],
    ['tempo', { lasts: 'soon' }, 'is no length of time'],
    ['limits', { own: 'quick' }, 'is no limit'],
  ])('%s refuses %j with what to do', (id, typed, says) => {
    const tool = BENCH_TOOLS.find((known) => known.id === id)!;
    const result = tool.work({ ...usualFields(tool), ...typed });
    expect(result.ok ? '' : result.problem.message).toContain(says);
  });
});

describe('against a slow twin', () => {
  test('a chain is exact, step by step', () => {
    const part = fc.integer({ min: 1, max: 9 });
    const chain = fc.array(fc.tuple(part, part), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 199 }), chain, (first, ratios) => {
        let [n, d] = [BigInt(first), 1n];
        const steps = expectValue(parseSteps(ratios.map((ratio) => ratio.join(':')).join(',')));
        const tempi = chainTempi(fraction(first), steps, { least: 50, below: 100 });
        ratios.forEach(([up, down], index) => {
          [n, d] = [n * BigInt(up), d * BigInt(down)];
          const { bpm, folded: beaten } = tempi[index + 1]!;
          expect(BigInt(bpm.n) * d).toBe(BigInt(bpm.d) * n);
          expect(toNumber(beaten)).toBeGreaterThanOrEqual(50);
          expect(toNumber(beaten)).toBeLessThan(100);
          expect(Math.log2(toNumber(beaten) / toNumber(bpm)) % 1).toBeCloseTo(0, 9);
        });
      }),
      { seed: 3 },
    );
    expect(folded(fraction(1215, 2), { least: 50, below: 100 })).toEqual(fraction(1215, 16));
  });

  test('the shortest chain leads there, and no shorter one of usual steps does', () => {
    const usual = [2, 3 / 2, 4 / 3, 5 / 4, 6 / 5, 5 / 3, 3, 7 / 4, 9 / 8, 8 / 5].flatMap((ratio) => [
      ratio,
      1 / ratio,
    ]);
    for (let goal = 41; goal < 220; goal += 3) {
      const chain = shortestChainMaybe(fraction(80), fraction(goal), 0.01);
      const one = usual.some((ratio) => Math.abs((80 * ratio) / goal - 1) <= 0.01);
      const two = usual.some((a) => usual.some((b) => Math.abs((80 * a * b) / goal - 1) <= 0.01));
      const shortest = Math.abs(80 / goal - 1) <= 0.01 ? 0 : one ? 1 : two ? 2 : 3;
      expect(chain === null ? 5 : chain.length).toBeGreaterThanOrEqual(Math.min(3, shortest));
      if (shortest < 3) expect(chain).toHaveLength(shortest);
      if (chain)
        expect(Math.abs(toNumber(chain.reduce(multiply, fraction(80))) / goal - 1)).toBeLessThanOrEqual(0.01);
    }
  });

  test('groupings are all that there are, each once', () => {
    for (let units = 2; units <= 14; units++) {
      const slow = new Set<string>();
      const visit = (rest: number, groups: readonly number[]): void => {
        if (rest === 0) slow.add(groups.join('+'));
        for (const size of [2, 3, 4]) if (size <= rest) visit(rest - size, [...groups, size]);
      };
      visit(units, []);
      const found = groupingsOf(units).map((groups) => groups.join('+'));
      expect(new Set(found)).toEqual(slow);
      expect(found).toHaveLength(slow.size);
    }
  });

  test('even groups add up and differ by one at most, the longer ones last', () => {
    for (let units = 2; units < 40; units++)
      for (let count = 1; count <= units; count++) {
        const groups = evenGroups(units, count);
        expect(groups.reduce((sum, group) => sum + group, 0)).toBe(units);
        expect([...groups].sort((a, b) => a - b)).toEqual([...groups]);
        expect(Math.max(...groups) - Math.min(...groups)).toBeLessThanOrEqual(1);
      }
    expect(groupStarts(evenGroups(16, 5))).toEqual([0, 3, 6, 9, 12]);
    expect(changedPlaces([3, 3, 2], [4, 4])).toBe(3);
  });

  test('an overlay falls where it must against every beat', () => {
    const known = fc.constantFrom('4/4', '7/8 as 2+2+3', '6/8', '5/4 as 3+2');
    fc.assert(
      fc.property(known, fc.integer({ min: 2, max: 13 }), (text, count) => {
        const meter = expectValue(parseMeter(text));
        const length = meterLength(meter);
        const placed = placedOnsets(expectValue(overlayOf(String(count), length, fraction(0))), meter);
        placed.forEach(({ atWholes, nearest, share }, index) => {
          expect(toNumber(atWholes)).toBeCloseTo((index * toNumber(length)) / count, 12);
          expect(compare(share, fraction(1))).toBeLessThan(0);
          expect(Math.abs(toNumber(share) - nearest.part / nearest.of)).toBeLessThanOrEqual(1 / 16 + 0.02);
        });
      }),
      { seed: 5 },
    );
  });

  test('a rhythm played on a grid, a little unevenly, is found on it', () => {
    const random = seededRandom(7);
    for (const parts of [2, 3, 4]) {
      for (let round = 0; round < 40; round++) {
        const beatMs = 400 + random() * 500;
        const steps = Array.from({ length: 12 }, (_, index) => index).filter(
          (step) => step % parts === 0 || random() < 0.8,
        );
        if (steps.filter((step) => step % parts !== 0).length < 4) continue;
        const onsets = steps.map((step) =>
          Math.max(0, (step * beatMs) / parts + (step === 0 ? 0 : (random() - 0.5) * 20)),
        );
        expect(gridFits(onsets, beatMs)[0]!.partsABeat).toBe(parts);
        const { lateMs } = fitOnGrid(onsets, beatMs, parts);
        lateMs.forEach((late, index) => {
          const steps = Array.from({ length: 40 }, (_, step) => onsets[index]! - (step * beatMs) / parts);
          expect(Math.abs(late)).toBeCloseTo(Math.min(...steps.map(Math.abs)), 9);
        });
      }
    }
    expect(swingRatioMaybe([0, 300, 500, 800, 1000], 500)).toBeCloseTo(1.5, 9);
  });

  test('a meter is found again in what was beaten', () => {
    const groupings = fc.array(fc.integer({ min: 2, max: 3 }), { minLength: 2, maxLength: 4 });
    // Taps of a hand are up to 15 ms off.
    const offs = fc.array(fc.double({ min: -15, max: 15, noNaN: true }), { minLength: 16, maxLength: 16 });
    fc.assert(
      fc.property(groupings, offs, (groups, offMs) => {
        const bar = groups
          .map((group, index) => `${index === 0 ? 'X' : 'x'}${'.'.repeat(group - 1)}`)
          .join('');
        const found = likelyBars(expectValue(parseStrokes(bar.repeat(4))))[0]!;
        expect(found).toEqual({ bars: [groups], share: 1 });
        // The same in milliseconds, tapped unevenly.
        const taps: string[] = [];
        let at = 0;
        for (const [place, group] of Array.from({ length: 4 }, () => groups)
          .flat()
          .entries()) {
          const isStrong = place % groups.length === 0;
          taps.push(`${Math.round(Math.max(0, at + (at === 0 ? 0 : offMs[place]!)))}${isStrong ? '!' : ''}`);
          at += group * 200;
        }
        const tapped = likelyBars(expectValue(parseStrokes(taps.join(' '))))[0]!;
        if (new Set(groups).size > 1) expect(tapped.bars[0]).toEqual(groups);
      }),
      { seed: 9 },
    );
  });
});

describe('what is sent to the map', () => {
  test('notes twice or half as long keep the time of every performed bar, or are refused', () => {
    const random = seededRandom(11);
    let [done, refusals] = [0, 0];
    for (let seed = 1; seed <= 120; seed++) {
      const piece = randomPiece(seed, 24);
      const from = Math.floor(random() * 18);
      const span = { from, count: 1 + Math.floor(random() * 5) };
      const edit = respelled(piece, span, seed % 2 === 0 ? fraction(2) : fraction(1, 2));
      if (!edit.ok) {
        refusals++;
        continue;
      }
      const { piece: after } = expectValue(applyEdit(piece, edit.value));
      done++;
      const [was, is] = [piece, after].map((one) => compilePiece(one).timeline.barStartSeconds);
      was!.forEach((seconds, index) =>
        expect(Math.abs(seconds - is![index]!)).toBeLessThan(1e-9 * Math.max(1, seconds)),
      );
      const lengths = (one: typeof piece) => one.bars.map(({ meter }) => toNumber(meterLength(meter)));
      lengths(after).forEach((length, index) => {
        const isIn = index >= span.from && index < span.from + span.count;
        expect(length).toBeCloseTo(lengths(piece)[index]! * (isIn ? (seed % 2 === 0 ? 2 : 0.5) : 1), 12);
      });
    }
    expect(done).toBeGreaterThan(60);
    expect(refusals).toBeLessThan(60);
  });

  test.each(BENCH_TOOLS.map((tool) => [tool.id, tool] as const))(
    '%s: an edit leaves the given piece as it is',
    (_id, tool) => {
      const piece = randomPiece(4, 16);
      const before = JSON.stringify(writePiece(piece));
      for (const { editFor } of expectValue(tool.work(usualFields(tool))).sends ?? []) {
        const edit = editFor(piece, { from: 2, count: 2 });
        if (edit.ok) applyEdit(piece, edit.value);
        else expect(edit.problem.message).toMatch(/\S+ \S+/);
      }
      expect(JSON.stringify(writePiece(piece))).toBe(before);
    },
  );

  test('every spelling of a bar lasts as long at its tempo', () => {
    for (const text of ['6/8', '4/4', '7/8 as 2+2+3', '9/8', '12/8', '3/4', '5/4 as 3+2', '2/2'])
      for (const rate of [fraction(20), fraction(45, 2), fraction(31)]) {
        const meter = expectValue(parseMeter(text));
        for (const { meter: other, factor } of respellings(meter, rate)) {
          expect(formatMeter(other)).not.toBe(text);
          const seconds = toNumber(meterLength(meter)) / toNumber(rate);
          expect(toNumber(meterLength(other)) / toNumber(multiply(rate, factor))).toBeCloseTo(seconds, 12);
        }
      }
  });

  test('a bar in another meter is filled by what becomes of its notes', () => {
    const [three, four] = ['3/4', '4/4'].map((text) => expectValue(parseMeter(text)));
    for (const [from, to, notes] of [
      [four!, three!, 'q e e h'],
      [four!, three!, 'q q q. e'],
      [three!, four!, 'q e e q'],
      [three!, four!, 'q q q'],
    ] as const)
      for (const way of REMETER_WAYS) {
        const made = remeteredMaybe(expectValue(parseRhythm(notes)), from, to, way);
        if (made) expect(rhythmLength(made)).toEqual(meterLength(to));
        else expect(way).toBe('squeezed or stretched');
      }
  });
});
