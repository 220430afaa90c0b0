import { describe, expect, test } from '@jest/globals';
import { writePiece, type BarDocument } from '@anchorbeat/core';
import { zipSync } from 'fflate';
import { bytes, direction, metronome, notes, rest, score, time } from '../test/scores.ts';
import { musicXml } from './musicXml.ts';

function readingOf(file: Uint8Array) {
  const reading = musicXml.read(file);
  if (!reading.ok) throw new Error(reading.problems.map(({ message }) => message).join('\n'));
  return { ...reading, document: writePiece(reading.piece), notes: reading.notes! };
}

const barsOf = (...measures: string[]) => readingOf(score([measures])).document.bars;
const full = notes(4, 4, 4, 4);
const without = (bars: readonly BarDocument[], ...fields: (keyof BarDocument)[]) =>
  bars.map((bar) =>
    Object.fromEntries(Object.entries(bar).filter(([name]) => !fields.includes(name as keyof BarDocument))),
  );

describe('meters, bars and numbers', () => {
  test('plain, additive and composite meters; a bar’s notes', () => {
    const composite =
      '<attributes><time><beats>3</beats><beat-type>4</beat-type><beats>3</beats><beat-type>8</beat-type></time></attributes>';
    expect(
      barsOf(
        time('4', '4') + full,
        time('2+2+3', '8') + notes(2, 2, 2, 2, 2, 2, 2),
        composite + notes(4, 4, 4, 6),
      ),
    ).toEqual([
      { meter: '4/4', rhythm: 'q q q q' },
      { meter: '(2+2+3)/8', rhythm: 'e e e e e e e' },
      { meter: '3/4+3/8', rhythm: 'q q q q.' },
    ]);
  });

  test('a pickup, a bar cut in two by a repeat, and numbers that jump or have letters', () => {
    const bars = barsOf(
      `{number="0" implicit="yes"}${time('4', '4')}${notes(4)}`,
      `{number="1"}${full}`,
      `{number="2"}${notes(4, 4, 4)}<barline location="right"><repeat direction="backward"/></barline>`,
      `{number="X1" implicit="yes"}${notes(4)}`,
      `{number="10"}${full}`,
      `{number="10a"}${full}`,
    );
    expect(without(bars, 'rhythm')).toEqual([
      { meter: '4/4', pickup: '1/4' },
      {},
      { cutTo: '3/4', endsRepeat: 2 },
      { label: null, pickup: '1/4' },
      { label: '10' },
      { label: '10a' },
    ]);
  });

  test('a pickup that is printed as bar 1 keeps its number, and the next one is 2', () => {
    const bars = barsOf(time('4', '4') + notes(4), full, full);
    expect(without(bars, 'rhythm')).toEqual([{ meter: '4/4', label: '1', pickup: '1/4' }, {}, {}]);
  });

  test('no meter anywhere: it is reckoned from the notes, and said', () => {
    const { document, notes: told } = readingOf(
      score([['<attributes><divisions>4</divisions></attributes>' + notes(12, 12, 12)]]),
    );
    expect(document.bars[0]?.meter).toBe('9/4');
    expect(told.guessed[0]?.says).toContain('9/4 was reckoned');
  });

  test('a meter that stands only in another part; a bar without meter is refused with its number', () => {
    const { document } = readingOf(
      score([
        [rest(16), rest(16)],
        [time('3', '4') + notes(4, 4, 4), notes(4, 4, 4)],
      ]),
    );
    expect(document.bars[0]?.meter).toBe('3/4');
    const senza = '<attributes><time><senza-misura/></time></attributes>';
    const reading = musicXml.read(score([[time('4', '4') + full, senza + full]]));
    expect(reading.ok ? null : reading.problems[0]).toMatchObject({
      bar: '2',
      message: expect.stringContaining('senza misura'),
    });
  });

  test('notes that do not fill their bar stay, for the check to find', () => {
    const { document, notes: told } = readingOf(score([[time('4', '4') + full, notes(4, 4, 4), full]]));
    expect(document.bars[1]).toEqual({ rhythm: 'q q q' });
    expect(told.findings).toEqual([{ says: 'the notes of this bar do not fill it', bar: '2' }]);
  });

  test('tuplets, dots, ties, chords, grace and cue notes, a second voice and gaps', () => {
    const triplet = (more = '') =>
      `<note><pitch><step>C</step><octave>4</octave></pitch><duration>4</duration>${more}<voice>1</voice><type>quarter</type><time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification></note>`;
    const attributes =
      '<attributes><divisions>6</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
    const grace = '<note><grace/><pitch><step>D</step><octave>4</octave></pitch></note>';
    const chord =
      '<note><chord/><pitch><step>E</step><octave>4</octave></pitch><duration>4</duration></note>';
    const tied =
      '<note><pitch><step>C</step><octave>4</octave></pitch><duration>6</duration><tie type="start"/></note>';
    const second =
      '<backup><duration>24</duration></backup><note><rest/><duration>24</duration><voice>2</voice></note>';
    const [bar] = barsOf(
      attributes +
        grace +
        triplet() +
        chord +
        triplet() +
        triplet() +
        tied +
        '<forward><duration>6</duration></forward>' +
        second,
    );
    expect(bar?.rhythm).toBe('q3 q3 q3 q~ rq');
  });
});

describe('tempo', () => {
  const tempoOf = (content: string) => barsOf(time('4', '4') + content + full)[0]?.tempo;
  const note = (type: string, more = '') =>
    `<metronome-note><metronome-type>${type}</metronome-type>${more}</metronome-note>`;
  const triplet =
    '<metronome-tuplet type="start"><actual-notes>3</actual-notes><normal-notes>2</normal-notes></metronome-tuplet>';
  test.each<[string, string, BarDocument['tempo']]>([
    ['a dotted beat', direction(metronome('quarter dot', '72')), [{ tempo: 'dotted quarter = 72' }]],
    [
      'a term beside it',
      direction(`<words>Allegro</words>|${metronome('quarter', '132')}`),
      [{ term: 'Allegro', tempo: 'quarter = 132' }],
    ],
    [
      'beat units',
      direction(
        '<metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><beat-unit>half</beat-unit></metronome>',
      ),
      [{ equivalence: 'dotted quarter = half' }],
    ],
    [
      'notes in groups',
      direction(
        `<metronome>${note('eighth', triplet)}<metronome-relation>equals</metronome-relation>${note('16th')}</metronome>`,
      ),
      [{ equivalence: 'triplet eighth = sixteenth' }],
    ],
    ['what a program would play', '<sound tempo="88.5"/>', [{ tempo: 'quarter = 88.5' }]],
    [
      'a rit. without a target',
      direction('<words>molto rit.</words>'),
      [{ term: 'molto rit.', ramp: 'even per beat' }],
    ],
    ['back again', direction('<words>a tempo</words>'), [{ term: 'a tempo', returns: 'a tempo' }]],
    [
      'the first tempo again',
      direction('<words>Tempo I</words>'),
      [{ term: 'Tempo I', returns: 'tempo primo' }],
    ],
    [
      'typed as text',
      direction('<words>Lively (♩. = 66)</words>'),
      [{ term: 'Lively', tempo: 'dotted quarter = 66' }],
    ],
    ['a term alone', direction('<words>Andante con moto</words>'), [{ term: 'Andante con moto' }]],
    ['an expression is none', direction('<words>dolce</words>'), undefined],
    [
      'with an offset',
      direction(metronome('quarter', '60'), '<offset>8</offset>'),
      [{ at: '1/2', tempo: 'quarter = 60' }],
    ],
  ])('%s', (_name, content, expected) => {
    expect(tempoOf(content)).toEqual(expected);
  });

  test('the printed tempo wins against the played one, and that is told', () => {
    const { document, notes: told } = readingOf(
      score([[time('4', '4') + direction(metronome('quarter dot', '60'), '<sound tempo="60"/>') + full]]),
    );
    expect(document.bars[0]?.tempo).toEqual([{ tempo: 'dotted quarter = 60' }]);
    expect(told.findings[0]?.says).toContain('printed 90 quarters a minute, but the file would play 60');
  });

  test('swing and "about" are told', () => {
    const group = note('eighth') + note('eighth');
    const swing = direction(
      `<metronome>${group}<metronome-relation>equals</metronome-relation>${group}</metronome>`,
    );
    const about = direction(metronome('quarter', 'c. 72-76'));
    const { document, notes: told } = readingOf(score([[time('4', '4') + swing + about + full]]));
    expect(document.bars[0]?.tempo).toEqual([{ tempo: 'quarter = 72' }]);
    expect([told.leftOut[0]?.says, told.guessed[0]?.says].join()).toMatch(/swing.*quarter = 72 was taken/);
  });
});

describe('the route', () => {
  const left = (content: string) => `<barline location="left">${content}</barline>`;
  const right = (content: string) => `<barline location="right">${content}</barline>`;
  test('repeats with times and endings over several bars', () => {
    const bars = barsOf(
      time('4', '4') + left('<repeat direction="forward"/>') + full,
      left('<ending number="1, 2" type="start"/>') + full,
      full + right('<ending number="1, 2" type="stop"/><repeat direction="backward" times="3"/>'),
      left('<ending number="3" type="start"/>') + full + right('<ending number="3" type="discontinue"/>'),
    );
    expect(without(bars, 'rhythm', 'meter')).toEqual([
      { startsRepeat: true },
      { ending: '1, 2' },
      { ending: '1, 2', endsRepeat: 3 },
      { ending: '3' },
    ]);
  });

  test.each<[string, string, BarDocument]>([
    ['D.S. from its sound', direction('<words>back</words>', '<sound dalsegno="segno"/>'), { jump: 'D.S.' }],
    ['D.S. al Coda from its words', direction('<words>D.S. al Coda</words>'), { jump: 'D.S. al coda' }],
    ['Da Capo al Fine', direction('<words>Da Capo al Fine</words>'), { jump: 'D.C. al fine' }],
    ['fine', direction('<words>Fine</words>'), { fine: true }],
    ['to coda', direction('<words>To Coda</words>|<coda/>', '<sound tocoda="c"/>'), { toCoda: true }],
    ['segno', direction('<segno/>'), { segno: true }],
  ])('%s', (_name, content, expected) => {
    expect(without(barsOf(time('4', '4') + full + content), 'rhythm', 'meter')).toEqual([expected]);
  });

  test('of two coda signs without "to coda" the first is where one leaves', () => {
    const bars = barsOf(time('4', '4') + full + direction('<coda/>'), direction('<coda/>') + full);
    expect(without(bars, 'rhythm', 'meter')).toEqual([{ toCoda: true }, { coda: true }]);
  });
});

describe('tempo words that point elsewhere', () => {
  const word = (text: string) => direction(`<words>${text}</words>`);
  const opening = direction(metronome('quarter', '60'));

  test('a tempo after the last note of a bar acts at the start of the next', () => {
    const bars = barsOf(
      time('4', '4') + opening + full + direction(metronome('quarter', '90')),
      full + direction(metronome('quarter', '100')),
      direction(metronome('quarter', '110')) + full,
    );
    expect(bars.map(({ tempo }) => tempo?.map((mark) => mark.tempo))).toEqual([
      ['quarter = 60'],
      ['quarter = 90'],
      ['quarter = 110'],
    ]);
    const { notes: told, document } = readingOf(
      score([[time('4', '4') + opening + full, full + word('rit.')]]),
    );
    expect(document.bars[1]?.tempo).toBeUndefined();
    expect(told.leftOut[0]?.says).toContain('after the last note of the piece');
  });

  test.each<[string, string, string]>([
    ['doppio movimento', '4/4', 'quarter = half'],
    ['Doppio più mosso', '6/8', 'dotted quarter = dotted half'],
    ['doppio più lento', '4/4', 'half = quarter'],
    ['Half tempo', '2/2', 'whole = half'],
    ['L’istesso tempo', '6/8', 'quarter = dotted quarter'],
    ['lo stesso tempo', '2/2', 'quarter = half'],
  ])('%s into %s is %s', (words, meter, equivalence) => {
    const [beats = '', type = ''] = meter.split('/');
    const isSame = /ste/i.test(words);
    const length = (16 * Number(beats)) / Number(type);
    const first = isSame ? time('4', '4') + opening + full : time(beats, type) + opening + notes(length);
    const bars = barsOf(first, time(beats, type) + word(words) + notes(length));
    expect(bars[1]?.tempo).toEqual([{ term: words, equivalence }]);
  });

  test('a double-time feel changes nothing', () => {
    expect(
      barsOf(time('4', '4') + opening + full, word('double time feel') + full)[1]?.tempo,
    ).toBeUndefined();
  });
});

describe('parts, holds and the head', () => {
  test('every part is a section with its rests of two bars and more, and its entries', () => {
    const { document } = readingOf(
      score(
        [
          [time('4', '4') + full, full, full, full, full, full],
          [time('4', '4') + rest(16), rest(16), full, rest(16), rest(16), full],
          [time('4', '4') + full, rest(16), full, full, full, full],
        ],
        '',
        ['Reeds', 'Bells', 'Bells'],
      ),
    );
    expect(document.sections).toEqual(['Reeds', 'Bells', 'Bells 2']);
    expect(
      document.bars.map(({ sections }) => sections?.map(({ section, does }) => `${section} ${does}`) ?? []),
    ).toEqual([[], [], ['Bells enters'], ['Bells rests'], [], ['Bells enters']]);
  });

  test('a fermata holds its note; a breath counts where most who play have it', () => {
    const held = (notation: string) =>
      `<note><pitch><step>C</step><octave>4</octave></pitch><duration>4</duration><notations>${notation}</notations></note>`;
    const breath = '<articulations><breath-mark/></articulations>';
    const { document, notes: told } = readingOf(
      score([
        [time('4', '4') + notes(12) + held('<fermata/>'), notes(12) + held(breath)],
        [time('4', '4') + notes(12) + held('<fermata/>'), full],
      ]),
    );
    expect(document.bars[0]?.holds).toEqual([{ at: '3/4', length: '1 beat', value: 'quarter' }]);
    expect(document.bars[1]?.holds).toBeUndefined();
    expect(told.leftOut).toEqual([{ says: 'breath marks of single parts', bar: '2' }]);
  });

  test('fermatas on notes that end together are one hold, over a whole rest too', () => {
    const note = (duration: number) =>
      `<note><pitch><step>C</step><octave>4</octave></pitch><duration>${duration}</duration><notations><fermata/></notations></note>`;
    const heldRest =
      '<note><rest measure="yes"/><duration>16</duration><notations><fermata/></notations></note>';
    const { document } = readingOf(
      score([
        [time('4', '4') + notes(12) + note(4), full],
        [time('4', '4') + notes(8) + note(8), full],
        [time('4', '4') + heldRest, full],
        [time('4', '4') + note(4) + notes(12), full],
      ]),
    );
    expect(document.bars[0]?.holds).toEqual([
      { length: '1 beat', value: 'quarter' },
      { at: '3/4', length: '1 beat', value: 'quarter' },
    ]);
  });

  test('title, composer, key, rehearsal marks; bar by bar as well as part by part', () => {
    const head =
      '<work><work-title>Tide &amp; Table</work-title></work><identification><creator type="composer">Nobody</creator></identification>';
    const key = '<attributes><key><fifths>-1</fifths><mode>minor</mode></key></attributes>';
    const measures = [time('4', '4') + key + full, direction('<rehearsal>B</rehearsal>') + full];
    const partwise = readingOf(score([measures], head)).document;
    expect(partwise).toMatchObject({ title: 'Tide & Table', composer: 'Nobody', key: 'D minor' });
    expect(partwise.bars[1]?.rehearsalMark).toBe('B');
    const timewise = bytes(
      `<score-timewise>${head}<part-list><score-part id="P1"><part-name>A</part-name></score-part></part-list>${measures
        .map((content, index) => `<measure number="${index + 1}"><part id="P1">${content}</part></measure>`)
        .join('')}</score-timewise>`,
    );
    expect(readingOf(timewise).document).toEqual(partwise);
  });

  test('the key is the one that sounds, of most parts; what is only printed on the page gives title and composer', () => {
    const part = (fifths: number, chromatic: number) => [
      `<attributes><divisions>4</divisions><key><fifths>${fifths}</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><transpose><chromatic>${chromatic}</chromatic></transpose></attributes>${full}`,
    ];
    const credit = (type: string, words: string) =>
      `<credit page="1"><credit-type>${type}</credit-type><credit-words>${words}</credit-words></credit>`;
    const printed = credit('title', 'Printed') + credit('subtitle', 'Below') + credit('composer', 'Nobody');
    const parts = [part(0, -2), part(1, -9), part(-3, -14), part(0, 0)];
    expect(readingOf(score(parts, printed)).document).toMatchObject({
      title: 'Printed',
      subtitle: 'Below',
      composer: 'Nobody',
      key: 'B♭ major',
    });
    const asItSounds = '<defaults><concert-score/></defaults>';
    expect(readingOf(score([part(-2, -2), part(-2, -9)], asItSounds)).document.key).toBe('B♭ major');
  });

  test('compressed two hundred times, being one bar over and over', () => {
    const bar = notes(...Array.from({ length: 32 }, () => 0.5));
    const plain = score([[time('4', '4') + bar, ...Array.from({ length: 1999 }, () => bar)]]);
    const zipped = zipSync({ 'a.xml': plain }, { level: 9 });
    expect(plain.length).toBeGreaterThan(5e6);
    expect(plain.length / zipped.length).toBeGreaterThan(200);
    expect(readingOf(zipped).document.bars).toHaveLength(2000);
  });

  test('compressed, in UTF-16, or with a wrong encoding declared', () => {
    const plain = score([[time('4', '4') + full]], '<work><work-title>Fløde</work-title></work>');
    const text = new TextDecoder().decode(plain);
    const container = bytes(
      '<container><rootfiles><rootfile full-path="music/s.xml"/></rootfiles></container>',
    );
    const zipped = zipSync({
      'META-INF/container.xml': container,
      'a.xml': bytes('<x/>'),
      'music/s.xml': plain,
    });
    const wide = new Uint8Array(2 * text.length + 2);
    wide.set([0xff, 0xfe]);
    [...text].forEach((letter, index) =>
      wide.set([letter.charCodeAt(0) & 255, letter.charCodeAt(0) >> 8], 2 * index + 2),
    );
    const western = Uint8Array.from(text, (letter) => letter.charCodeAt(0));
    for (const file of [plain, zipped, wide, western]) expect(readingOf(file).document.title).toBe('Fløde');
    expect(readingOf(western).notes.guessed[0]?.says).toContain('which it is not');
    const latin = bytes(text.replace('UTF-8', 'ISO-8859-1'));
    expect(readingOf(latin).document.title).toBe('Fløde');
  });
});
