import { describe, expect, test } from '@jest/globals';
import {
  compilePiece,
  formatEquivalence,
  formatStatedTempo,
  writePiece,
  type PieceDocument,
} from '@anchorbeat/core';
import { direction, metronome, notes, score, time } from '../test/scores.ts';
import { musicXml } from './musicXml.ts';
import { readScoreWords } from './scoreWords.ts';

/** What words say, in short: "toCoda", "D.S. al coda", "times 4", "in 2", "ramp", "q = q.". */
function sayingOf(words: string): string {
  const { mark, route, times, pulse, takesRepeatsAfterJump } = readScoreWords(words, false);
  const { jump, ...signs } = route ?? {};
  return [
    mark?.term !== undefined && `“${mark.term}”`,
    mark?.stated && formatStatedTempo(mark.stated),
    mark?.equivalence && formatEquivalence(mark.equivalence),
    mark?.proportion,
    mark?.returns,
    mark?.isRamp && 'ramp',
    ...Object.keys(signs),
    jump && `to ${jump.to}${jump.al ? ` al ${jump.al}` : ''}`,
    takesRepeatsAfterJump && 'with repeats',
    times !== undefined && `times ${times}`,
    pulse,
  ]
    .filter(Boolean)
    .join(', ');
}

describe('words over a bar', () => {
  test.each([
    ['♩ = 96', 'quarter = 96'],
    ['Lively, ♪. = ca. 60', '“Lively”, dotted eighth = 60'],
    ['Fast (\u{1D15E} = 88)', '“Fast”, half = 88'],
    ['\u{1D158}\u{1D165}\u{1D16D} = 92,5', 'dotted quarter = 92.5'],
    ['\uECA5\uECB7 = 66', 'dotted quarter = 66'],
    ['q = 120', 'quarter = 120'],
    ['Opus 3 = 120', ''],
    ['♪ = ♪', 'eighth = eighth'],
    ['(♩ = ♩.)', 'quarter = dotted quarter'],
    ['♩. = preceding ♩', 'quarter = dotted quarter'],
    ['Doppio movimento (♩ = \u{1D157}\u{1D165})', '“Doppio movimento”, quarter = half'],
    ['♩ = ♩. = 60', 'dotted quarter = 60, quarter = dotted quarter'],
    ['♪♪ = ♩♪', ''],
    ['♪ = ♩♪', ''],
    ['doppio movimento', '“doppio movimento”, double'],
    ['riten.', '“riten.”, ramp'],
    ['poco a poco rallent.', '“poco a poco rallent.”, ramp'],
    ['affrettando', '“affrettando”, ramp'],
    ['gradually slower', '“gradually slower”, ramp'],
    ['ritmico', ''],
    ['Strings', ''],
    ['string.', '“string.”, ramp'],
    ['D.C. al Fine', 'to start al fine'],
    ['D.S. \u{1D10B} al ⊕', 'to segno al coda'],
    ['D.C. al Fine con rep.', 'to start al fine, with repeats'],
    ['To \u{1D10C}', 'toCoda'],
    ['last time to Coda', 'toCoda'],
    ['⊕ Coda', 'coda'],
    ['Fine (last time)', 'fine'],
    ['Fine tone', ''],
    ['4x', 'times 4'],
    ['Play three times', 'times three'.replace('three', '3')],
    ['2x only', ''],
    ['1x', ''],
    ['4 xylophones', ''],
    ['Vamp till cue', 'times until cued'],
    ['open repeat', 'times until cued'],
    ['till ready', 'times until cued'],
    ['open', ''],
    ['in 2', 'in 2'],
    ['(In One)', 'in one'],
    ['in 20 seconds', ''],
    ['in two parts', ''],
    ['dolce', ''],
  ])('%s', (words, says) => {
    expect(sayingOf(words)).toBe(says);
  });
});

const full = notes(4, 4, 4, 4);
const word = (text: string, sound = '') => direction(`<words>${text}</words>`, sound);
const left = '<barline location="left"><repeat direction="forward"/></barline>';
const right = (times = '') => `<barline location="right"><repeat direction="backward"${times}/></barline>`;

function readingOf(measures: readonly string[]) {
  const [first = '', ...rest] = measures;
  const reading = musicXml.read(score([[time('4', '4') + first, ...rest]]));
  if (!reading.ok) throw new Error(reading.problems[0]?.message);
  const { notes: told, piece } = reading;
  const says = [...told!.guessed, ...told!.leftOut].map((note) => `${note.bar ?? ''}: ${note.says}`);
  return { piece, document: writePiece(piece), says: says.join('\n') };
}

const performed = (measures: readonly string[]) =>
  Array.from(compilePiece(readingOf(measures).piece).timeline.route.barIndex, (bar) => bar + 1).join(' ');
const fieldOf = (field: keyof PieceDocument['bars'][number], measures: readonly string[]) =>
  readingOf(measures).document.bars.map((bar) => bar[field]);

describe('where words and what a program would play stand together', () => {
  const fine = word('Fine', '<sound fine="yes"/>');
  const toCoda = word('To Coda', '<sound tocoda="coda"/>');
  const segno = direction('<segno/>', '<sound segno="segno"/>');
  const coda = direction('<coda/>', '<sound coda="coda"/>');

  test.each<[string, readonly string[], string]>([
    [
      'al fine passes "to coda" by',
      [full + toCoda, full + fine, full + word('D.C. al Fine', '<sound dacapo="yes"/>'), coda + full],
      '1 2 3 1 2',
    ],
    [
      'al coda passes the fine by',
      [
        segno + full + fine,
        full + toCoda,
        full + word('D.S. al Coda', '<sound dalsegno="segno"/>'),
        coda + full,
      ],
      '1 2 3 1 2 4',
    ],
    [
      'in directions of their own',
      [full + toCoda, full + fine, `${full}${word('D.C. al Fine')}<sound dacapo="yes"/>`, coda + full],
      '1 2 3 1 2',
    ],
    [
      'a repeat whose sign says that it is taken after a jump too',
      [left + full, full + right(' after-jump="yes"'), full + fine + word('D.C. al Fine')],
      '1 2 1 2 3 1 2 1 2 3',
    ],
    [
      'such a sign in a coda says nothing of the repeats before it',
      [
        full + right(''),
        full + word('To Coda'),
        full + word('D.C. al Coda'),
        coda + full + right(' after-jump="yes"'),
      ],
      '1 1 2 3 1 2 4 4',
    ],
    [
      'a sign beside "to coda" is no place to arrive',
      [full + word('To Coda') + direction('<coda/>'), full + word('D.C. al Coda'), coda + full],
      '1 2 1 3',
    ],
  ])('%s', (_name, measures, order) => {
    expect(performed(measures)).toBe(order);
  });

  test('a typed tempo keeps its beat beside the one that is played', () => {
    const { document, says } = readingOf([word('Lively ♩. = 60', '<sound tempo="90"/>') + full]);
    expect(document.bars[0]?.tempo).toEqual([{ term: 'Lively', tempo: 'dotted quarter = 60' }]);
    expect(says).not.toContain('no tempo is printed');
  });
});

test('a repeat sign inside a bar is told', () => {
  const middle = '<barline location="middle"><repeat direction="backward"/></barline>';
  const { says } = readingOf([full, notes(4, 4) + middle + notes(4, 4), full]);
  expect(says).toContain('2: a repeat sign inside the bar was taken for one at its end');
});

test('a tempo that is played again and again is one mark', () => {
  const sound = '<sound tempo="90"/>';
  const measures = [
    direction(metronome('quarter dot', '60')) + full,
    sound + full,
    word('rit.') + full,
    sound + full,
  ];
  expect(fieldOf('tempo', measures)).toEqual([
    [{ tempo: 'dotted quarter = 60' }],
    undefined,
    [{ term: 'rit.', ramp: 'even per beat' }],
    [{ tempo: 'quarter = 90' }],
  ]);
});

describe('how often words say that something is repeated', () => {
  test.each<[string, readonly string[], ReadonlyArray<number | 'until cued' | undefined>]>([
    ['at the bar that goes back', [left + full, full + word('4x') + right()], [undefined, 4]],
    [
      'where the repeat opens',
      [left + word('Vamp till cue') + full, full + right()],
      [undefined, 'until cued'],
    ],
    ['the sign is believed', [left + word('4x') + full, full + right(' times="3"')], [undefined, 3]],
    [
      'never of the next repeat',
      [full + word('4x'), left + full + right(), left + word('3x') + full + right()],
      [undefined, 2, 3],
    ],
  ])('%s', (_name, measures, times) => {
    expect(fieldOf('endsRepeat', measures)).toEqual(times);
  });

  test('without a repeat that is told', () => {
    expect(readingOf([full + word('4x'), full]).says).toContain('1: words that something is played 4 times');
  });
});

test('"in 2" holds up to the next meter, "in 4" ends it, and what cannot be is left out', () => {
  const threeFour = time('3', '4');
  const measures = [
    word('in 2') + full,
    full,
    word('in 4') + full,
    word('In 2') + full,
    threeFour + notes(4, 4, 4),
  ];
  expect(fieldOf('pulse', measures)).toEqual(['in 2', 'in 2', 'in 4', 'in 2', undefined]);
  const { document, says } = readingOf([full, threeFour + word('in 2') + notes(4, 4, 4)]);
  expect(document.bars[1]?.pulse).toBeUndefined();
  expect(says).toContain('2: This bar cannot be beaten in 2');
});

test('a bar that all its parts fill beyond its meter is a longer one, for itself', () => {
  const five = notes(4, 4, 4, 4, 4);
  expect(fieldOf('meter', [full, five, full])).toEqual(['4/4', '5/4', '4/4']);
  expect(readingOf([full, five]).says).toContain('2: the notes of a bar make 5/4');
  expect(fieldOf('meter', [full, full + full])).toEqual(['4/4', undefined]);
  const two = musicXml.read(
    score([
      [time('4', '4') + full, five],
      [full, full],
    ]),
  );
  expect(two.ok && writePiece(two.piece).bars.map(({ meter }) => meter)).toEqual(['4/4', undefined]);
});

describe('durations that are rounded to whole divisions', () => {
  const opening =
    '<attributes><divisions>256</divisions><time><beats>2</beats><beat-type>4</beat-type></time></attributes>';
  const note = (type: string, duration: number, voice: number, more = '') =>
    `<note><pitch><step>C</step><octave>4</octave></pitch><duration>${duration}</duration><voice>${voice}</voice><type>${type}</type>${more}</note>`;
  const triplet = (duration: number) =>
    note(
      'eighth',
      duration,
      1,
      '<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>',
    );
  const second = (back: number) => `<backup><duration>${back}</duration></backup>${note('half', 512, 2)}`;

  test.each<[string, readonly number[], number]>([
    ['made up for by the last', [85, 85, 86], 512],
    ['not made up for', [85, 85, 85], 511],
  ])('%s', (_name, durations, back) => {
    const bar = `${note('quarter', 256, 1)}${durations.map(triplet).join('')}${second(back)}`;
    const reading = musicXml.read(score([[opening + bar, bar]]));
    expect(reading.ok && writePiece(reading.piece).bars).toEqual([
      { meter: '2/4', rhythm: 'q e3 e3 e3' },
      { rhythm: 'q e3 e3 e3' },
    ]);
    expect(reading.ok && reading.notes?.findings).toEqual([]);
  });
});

test('a letter in a frame is a rehearsal mark where the score writes none as such', () => {
  const framed = direction('<words enclosure="square">B</words>');
  expect(fieldOf('rehearsalMark', [full, framed + full])).toEqual([undefined, 'B']);
  const written = direction('<rehearsal>A</rehearsal>');
  expect(fieldOf('rehearsalMark', [written + full, framed + full])).toEqual(['A', undefined]);
  expect(readingOf([full, framed + full]).says).toContain('2: B in a frame was taken for a rehearsal mark');
});

describe('metronome marks of notes that are tied together', () => {
  const tied = (more: string) =>
    `<metronome><beat-unit>quarter</beat-unit><beat-unit-tied>${more}</beat-unit-tied><per-minute>60</per-minute></metronome>`;
  const note = (type: string, tie: string, dot = '') =>
    `<metronome-note><metronome-type>${type}</metronome-type>${dot}<metronome-tied type="${tie}"/></metronome-note>`;

  test.each<[string, string, string]>([
    ['one note', tied('<beat-unit>eighth</beat-unit>'), 'dotted quarter = 60'],
    ['five eighths', tied('<beat-unit>quarter</beat-unit><beat-unit-dot/>'), 'eighth = 300'],
    ['with a comma', metronome('quarter', '92,5'), 'quarter = 92.5'],
  ])('%s', (_name, mark, tempo) => {
    expect(readingOf([direction(mark) + full]).document.bars[0]?.tempo).toEqual([{ tempo }]);
  });

  test('an equivalence of them', () => {
    const sides = `${note('quarter', 'start')}${note('eighth', 'stop')}<metronome-relation>equals</metronome-relation><metronome-note><metronome-type>half</metronome-type></metronome-note>`;
    const { document } = readingOf([full, direction(`<metronome>${sides}</metronome>`) + full]);
    expect(document.bars[1]?.tempo).toEqual([{ equivalence: 'dotted quarter = half' }]);
  });
});
