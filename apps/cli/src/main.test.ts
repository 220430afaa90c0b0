import { readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';
import { compilePiece, readPiece } from '@anchorbeat/core';
import { main } from './main.ts';

const DEMO = new URL('../../../demo/', import.meta.url);
const slackWater = readFileSync(new URL('slack-water.anchorbeat.json', DEMO));
const reading = readPiece(JSON.parse(slackWater.toString('utf8')));
if (!reading.ok) throw new Error('the demo piece does not read');
const compiled = compilePiece(reading.piece);

async function ran(args: readonly string[], files: Readonly<Record<string, string | Uint8Array>> = {}) {
  const written = new Map<string, Uint8Array>();
  let [printed, complained] = ['', ''];
  const status = await main(args, {
    readFile: (file) => {
      const content = files[file] ?? slackWater;
      return typeof content === 'string' ? new TextEncoder().encode(content) : content;
    },
    writeFile: (file, parts) => void written.set(file, Buffer.concat([...parts])),
    print: (text) => (printed += text),
    complain: (text) => (complained += text),
    readPackageFile: (name) => readFileSync(new URL(`../../../node_modules/${name}`, import.meta.url)),
    readWords: (name) => readFileSync(new URL(`../../web/public/words/${name}`, import.meta.url)),
  });
  return { status, printed, complained, written };
}

const rowsOf = (text: string) =>
  text
    .trimEnd()
    .split('\n')
    .map((line) => line.split(','));

describe('what is printed', () => {
  test('bars: every performed bar with its times', async () => {
    const [head, ...rows] = rowsOf((await ran(['bars', 'a.json'])).printed);
    expect(head).toEqual(['performed', 'bar', 'pass', 'meter', 'start_s', 'length_s']);
    expect(rows).toHaveLength(compiled.timeline.route.barIndex.length);
    expect(rows[0]!.slice(0, 4)).toEqual(['1', '', '1', '6/8']);
    rows.forEach((row, index) => {
      expect(Number(row[4])).toBeCloseTo(compiled.timeline.barStartSeconds[index]!, 11);
      expect(row[4]).toMatch(/\.\d{9,}$/);
    });
  });

  test('clicks: each with its place', async () => {
    const [head, ...rows] = rowsOf((await ran(['clicks', 'a.json'])).printed);
    expect(head).toEqual(['time_s', 'performed', 'bar', 'pass', 'beat', 'kind']);
    expect(rows.map((row) => Number(row[0]))).toEqual(
      Array.from(compiled.clicks.timeSeconds, (time) => expect.closeTo(time, 11)),
    );
    expect(new Set(rows.map((row) => row[5]))).toEqual(new Set(['downbeat', 'group', 'beat', 'subdivision']));
  });

  test('seams and findings', async () => {
    expect(rowsOf((await ran(['seams', 'a.json'])).printed)).toHaveLength(compiled.seams.length + 1);
    const { status, printed } = await ran(['check', 'a.json']);
    expect([status, printed.trimEnd().split('\n').length]).toEqual([0, compiled.findings.length]);
    const wrong = (bar: object) =>
      ran(['check', 'b.json'], {
        'b.json': JSON.stringify({ format: 'anchorbeat-piece', version: 1, title: 'T', bars: [bar] }),
      });
    // What plays as written is asked about; what leads nowhere is an error.
    expect(await wrong({ meter: '4/4', rhythm: 'q' })).toMatchObject({
      status: 0,
      printed: expect.stringContaining('question: The notes of bar 1'),
    });
    expect(await wrong({ meter: '4/4', jump: 'D.S.' })).toMatchObject({
      status: 1,
      printed: expect.stringContaining('error: '),
    });
  });
});

describe('files', () => {
  test('a piece becomes a table and a piece again', async () => {
    const table = (await ran(['convert', 'a.json', 'b.csv'])).written.get('b.csv')!;
    const back = (await ran(['convert', 'b.csv', 'c.json'], { 'b.csv': table })).written.get('c.json')!;
    const read = readPiece(JSON.parse(new TextDecoder().decode(back)));
    expect(read.ok && [...compilePiece(read.piece).timeline.barStartSeconds]).toEqual([
      ...compiled.timeline.barStartSeconds,
    ]);
  });

  test('the click as sound: as long as it lasts, each bar where it begins', async () => {
    const bytes = Buffer.from(
      (await ran(['render', 'a.json', 'o.wav', '--rate=48000', '--bits=24', '--percent=150'])).written.get(
        'o.wav',
      )!,
    );
    expect(bytes.readUInt32LE(24)).toBe(48_000);
    const cue = bytes.indexOf('cue ');
    const sampleOf = (bar: number) => bytes.readUInt32LE(cue + 12 + 24 * bar + 20);
    expect(sampleOf(5) - sampleOf(0)).toBeCloseTo(
      (compiled.timeline.barStartSeconds[5]! / 1.5) * 48_000,
      -0.5,
    );
  });

  test('what would wait for a cue is rendered as on paper', async () => {
    const lamp = readFileSync(new URL('lamp-on-the-bar.anchorbeat.json', DEMO));
    const { status, written } = await ran(['render', 'lamp.json', 'o.wav'], { 'lamp.json': lamp });
    const seconds = ((written.get('o.wav')?.length ?? 0) - 44) / 2 / 44_100;
    expect(status).toBe(0);
    expect(seconds).toBeGreaterThan(49);
    expect(seconds).toBeLessThan(56);
  });

  test.each([
    [
      ['bars', 'x.json'],
      { 'x.json': '{"format":"anchorbeat-piece","version":1,"title":"T","bars":[{"meter":"4/x"}]}' },
      'bars[0].meter',
    ],
    [['bars', 'x.csv'], { 'x.csv': 'meter\n4/4\nfive\n' }, 'row 3, meter'],
    [['bars', 'x.doc'], {}, 'has an ending that is not known'],
    [['bars'], {}, 'Name the file to read'],
    [['render', 'a.json', 'o.wav', '--rate=8000'], {}, '--rate cannot be "8000"'],
    [['sing', 'a.json'], {}, 'bars FILE'],
  ])('%j is refused with its reason and writes nothing', async (args, files, reason) => {
    const { status, printed, complained, written } = await ran(args, files);
    expect([status, printed, written.size]).toEqual([2, '', 0]);
    expect(complained).toContain(reason);
  });
});

describe('files of other programs', () => {
  test('MusicXML and MIDI come out of convert and go in again, with the same bars', async () => {
    const bars = (await ran(['bars', 'a.json'])).printed;
    for (const name of ['b.musicxml', 'b.mid']) {
      const { written, status } = await ran(['convert', 'a.json', name]);
      expect(status).toBe(0);
      const times = rowsOf((await ran(['bars', name], { [name]: written.get(name)! })).printed).map((row) =>
        Number(row[4]),
      );
      rowsOf(bars).forEach((row, index) => {
        if (index > 0) expect(times[index]).toBeCloseTo(Number(row[4]), 3);
      });
      const back = await ran(['convert', name, 'c.json'], { [name]: written.get(name)! });
      expect(back.complained).toContain('read: 53 bars');
    }
  });

  test('what is wrong is told with its bar or line, and nothing is written', async () => {
    const senza =
      '<score-partwise><part id="a"><measure number="7"><attributes><time><senza-misura/></time></attributes></measure></part></score-partwise>';
    const refused = await ran(['convert', 'x.xml', 'c.json'], { 'x.xml': senza });
    expect([refused.status, refused.written.size]).toEqual([2, 0]);
    expect(refused.complained).toMatch(/bar 7.*senza misura/);
    expect((await ran(['bars', 'x.xml'], { 'x.xml': '<score-partwise>\n<part' })).complained).toMatch(
      /Line 2/,
    );
  });

  test('a click with its count spoken is as long as one that is clicked, and another sound', async () => {
    const said = (await ran(['render', 'a.json', 'a.wav', '--spoken', '--percent=150'])).written.get(
      'a.wav',
    )!;
    const clicked = (await ran(['render', 'a.json', 'a.wav', '--percent=150'])).written.get('a.wav')!;
    expect(said.length).toBe(clicked.length);
    expect(Buffer.from(said).equals(Buffer.from(clicked))).toBe(false);
  });
});

describe('sound by the ending of its file', () => {
  const bytesOf = async (args: readonly string[]) => {
    const { written, complained, status } = await ran(['render', 'a.json', ...args, '--percent=150']);
    expect([complained, status]).toEqual(['', 0]);
    return Buffer.from(written.get(args.find((arg) => arg.startsWith('o.'))!)!);
  };
  /** Seconds of a WAV of 16 bits at 44,100 samples a second, its named places aside. */
  const secondsOf = (wav: Buffer, channels = 1) => {
    const data = wav.indexOf('data');
    return wav.readUInt32LE(data + 4) / 2 / channels / 44_100;
  };

  test('FLAC, and MP3 with what its encoder added stated in its first frame', async () => {
    expect((await bytesOf(['o.flac', '--count-off'])).toString('latin1', 0, 4)).toBe('fLaC');
    const mp3 = await bytesOf(['o.mp3', '--count-off']);
    expect([mp3[0], mp3.toString('latin1', 21, 25)]).toEqual([0xff, 'Info']);
    expect(mp3.toString('latin1', 0, 200)).toContain('LAME');
  });

  test('the count-off is shorter than a drill, a drill than its ladder; pieces in a row have their pause', async () => {
    const whole = secondsOf(await bytesOf(['o.wav']));
    const countOff = secondsOf(await bytesOf(['o.wav', '--count-off']));
    const drill = secondsOf(await bytesOf(['o.wav', '--seam=11', '--rounds=1']));
    const ladder = secondsOf(await bytesOf(['o.wav', '--seam=11', '--ladder']));
    expect(countOff).toBeLessThan(drill);
    expect(drill).toBeLessThan(ladder);
    const both = secondsOf(await bytesOf(['a.json', 'o.wav', '--pause=30']));
    expect(both).toBeCloseTo(2 * whole + 30 - 0.5, 1);
  });

  test('for a desk there are two channels', async () => {
    const wav = await bytesOf(['o.wav', '--desk', '--count-off']);
    expect(wav.readUInt16LE(22)).toBe(2);
  });

  test.each([
    [['o.ogg'], /name it out\.wav, out\.flac or out\.mp3/],
    [['o.mp3', '--rate=96000'], /48000/],
    [['o.wav', '--seam=999'], /names no bar/],
    [['o.wav', '--ladder'], /of which seam/],
    [['o.wav', '--click=cowbell'], /--click cannot be "cowbell"/],
    [['o.wav', '--pause=-1'], /--pause/],
  ])('%j is refused and writes nothing', async (args, reason) => {
    const { status, complained, written } = await ran(['render', 'a.json', ...args]);
    expect([status, written.size]).toEqual([2, 0]);
    expect(complained).toMatch(reason);
  });
});

describe('sheets, pictures and sums', () => {
  test('a sheet is a PDF file, a picture an SVG of the bars that are named', async () => {
    const sheet = (await ran(['sheet', 'a.json', 'o.pdf', '--section=reeds', '--from=10', '--to=12']))
      .written;
    expect(Buffer.from(sheet.get('o.pdf')!).subarray(0, 8).toString()).toBe('%PDF-1.7');
    const picture = (await ran(['picture', 'a.json', 'o.svg', '--from=14', '--to=16', '--width=700']))
      .written;
    const svg = Buffer.from(picture.get('o.svg')!).toString();
    expect(svg).toContain('width="700"');
    expect(svg).toContain('>Brighter');
    expect(svg).not.toContain('>Swaying');
    const png = (await ran(['picture', 'a.json', 'o.png', '--from=14', '--to=16', '--width=700'])).written;
    const bytes = Buffer.from(png.get('o.png')!);
    const height = Number(/height="([\d.]+)"/.exec(svg)?.[1]);
    expect(bytes.subarray(1, 4).toString()).toBe('PNG');
    expect([bytes.readUInt32BE(16), bytes.readUInt32BE(20)]).toEqual([1400, Math.round(2 * height)]);
  });

  test('a sum of the bench answers in words and as a table', async () => {
    const { printed, status } = await ran(['bench', 'chain', 'tempo=q = 80', 'steps=3:2 x5']);
    expect(status).toBe(0);
    expect(printed).toContain('3:2,1215/2,607.5,98.77,75.9375');
  });

  test.each<[readonly string[], string]>([
    [['sheet', 'a.json', 'o.txt'], 'name it out.pdf'],
    [['sheet', 'a.json', 'o.pdf', '--section=Flutes'], 'no section "Flutes": it names Handbells, Reeds'],
    [['sheet', 'a.json', 'o.pdf', '--from=99'], 'names no bar'],
    [['sheet', 'a.json', 'o.pdf', '--from=9', '--to=2'], 'nothing would be printed'],
    [['sheet', 'a.json', 'o.pdf', '--sheet=all'], 'count-sheet, overview'],
    [['picture', 'a.json', 'o.gif'], 'name it out.svg or out.png'],
    [['bench', 'sums'], 'Name a tool: tempo, chain'],
    [['bench', 'chain', 'pace=3'], 'names no field: tempo=q = 80'],
    [['bench', 'chain', 'steps=3:0'], 'is no step'],
  ])('%j is refused with what to do', async (args, says) => {
    const { status, complained, written } = await ran(args);
    expect([status, written.size]).toEqual([2, 0]);
    expect(complained).toContain(says);
  });
});

describe('takes', () => {
  const long = JSON.stringify({
    format: 'anchorbeat-piece',
    version: 1,
    title: 'A short bar',
    bars: [
      { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }] },
      ...Array.from({ length: 5 }, () => ({})),
      { meter: '15/16 as 4+4+4+3' },
      { meter: '4/4' },
      ...Array.from({ length: 6 }, () => ({})),
    ],
  });
  const simulated = (...options: string[]) =>
    ran(['simulate', 'long.json', ...options], { 'long.json': long });
  const taken = (onsets: string, ...options: string[]) =>
    ran(['take', 'long.json', 'onsets.csv', ...options], { 'long.json': long, 'onsets.csv': onsets });

  test('what a simulated player does is called by its name, the same for the same seed', async () => {
    const { printed } = await simulated('--habit=filled-up', '--seed=7');
    expect((await simulated('--habit=filled-up', '--seed=7')).printed).toBe(printed);
    expect((await simulated('--habit=filled-up', '--seed=8')).printed).not.toBe(printed);
    const [head, ...rows] = rowsOf((await taken(`onset_s\n${printed}`)).printed);
    expect(head).toEqual(['bar', 'explanation', 'probability', 'effect_ms', 'second', 'second_probability']);
    expect(rows.map((row) => row[0])).toEqual(['7', '8']);
    expect(rows[0]![1]).toBe('filled-up');
    expect(Number(rows[0]![2])).toBeGreaterThan(0.9);
    expect(Number(rows[0]![3])).toBeCloseTo(150, 0);
  });

  test('a hold that waits for a cue is passed as on paper', async () => {
    const held = long.replace('{}', '{"holds":[{"length":"until cued"}]}');
    const [, ...rows] = rowsOf(
      (
        await ran(['take', 'held.json', 'onsets.csv'], {
          'held.json': held,
          'onsets.csv': (await simulated()).printed,
        })
      ).printed,
    );
    expect(held).toContain('until cued');
    expect(rows.map((row) => row[0])).toEqual(['7', '8']);
  });

  test('from a bar on only the seams that are passed', async () => {
    const { printed } = await simulated('--from=8');
    expect(rowsOf((await taken(printed, '--from=8')).printed)).toHaveLength(1);
  });

  test('captions begin at their offset, and no other ending is written', async () => {
    const { written } = await ran(['captions', 'long.json', 'out.srt', '--offset=3'], { 'long.json': long });
    expect(new TextDecoder().decode(written.get('out.srt'))).toMatch(/^1\n00:00:03,000 --> /);
    const { status, complained } = await ran(['captions', 'long.json', 'out.txt'], { 'long.json': long });
    expect([status, complained]).toEqual([2, expect.stringContaining('name it out.vtt or out.srt')]);
  });

  test.each<[string, readonly string[], string]>([
    ['a bar that is not there', ['simulate', 'a.json', '--from=999'], 'no bar 999'],
    ['a habit nobody knows', ['simulate', 'a.json', '--habit=lazy'], 'filled-up'],
    ['a way to play nobody knows', ['take', 'a.json', 'b.csv', '--play=fast'], 'pulse, groups, carry, notes'],
    ['a line that is no number', ['take', 'a.json', 'b.csv'], 'Line 2'],
  ])('%s is refused with what to do', async (_name, args, says) => {
    const { status, complained } = await ran(args, { 'b.csv': '1.5\nsoon\n' });
    expect(status).toBe(2);
    expect(complained).toContain(says);
  });
});
