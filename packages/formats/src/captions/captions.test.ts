import { describe, expect, test } from '@jest/globals';
import { barStart, paperRun, PLAIN_RUN, proofOf, readPiece } from '@anchorbeat/core';
import { captionsOf, subRipOf, webVttOf } from './captions.ts';

function proofFrom(bars: readonly object[]) {
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Captions', bars });
  if (!reading.ok) throw new Error('the piece does not read');
  return proofOf(reading.piece);
}

const proof = proofFrom([
  { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }], rehearsalMark: 'A' },
  { note: 'bells < reeds & drums' },
  { meter: '15/16 as 4+4+4+3' },
  { meter: '4/4', holds: [{ at: '3/4', length: '2 beats' }] },
  {},
]);
const plan = paperRun(proof, PLAIN_RUN);

describe('captions', () => {
  test('a caption a bar, where the bar really is, and one for the count-off', () => {
    const captions = captionsOf(proof, plan, 0);
    expect(captions.map(({ title }) => title)).toEqual([
      'Count-off',
      'Bar 1 · 4/4 · A',
      'Bar 2',
      'Bar 3 · 15/16 as 4+4+4+3',
      'Bar 4 · 4/4',
      'Bar 5',
    ]);
    const countOff = plan.countOff.lengthSeconds;
    captions.slice(1).forEach(({ fromSeconds }, performed) => {
      expect(fromSeconds).toBeCloseTo(countOff + barStart(proof.compiled.timeline, performed), 9);
    });
    captions
      .slice(1)
      .forEach(({ fromSeconds }, index) => expect(captions[index]?.toSeconds).toBe(fromSeconds));
    expect(captions[3]?.says).toContain('then 4/4');
    expect(captions[2]?.says).toContain('then 15/16 as 4+4+4+3');
    expect(captions[3]?.counts.map(({ word }) => word)).toEqual(['1', '2', '3', '4']);
  });

  test('with an offset everything moves; what ends before the video is left out, what is cut begins with it', () => {
    const plain = captionsOf(proof, plan, 0);
    const later = captionsOf(proof, plan, 5.25);
    expect(later.map(({ fromSeconds }) => fromSeconds)).toEqual(
      plain.map(({ fromSeconds }) => fromSeconds + 5.25),
    );
    const cut = captionsOf(proof, plan, -(plan.countOff.lengthSeconds + 1));
    expect(cut[0]).toMatchObject({ title: 'Bar 1 · 4/4 · A', fromSeconds: 0, toSeconds: 1 });
  });

  test('WebVTT escapes what is typed, and lights counts up in time', () => {
    const text = webVttOf(captionsOf(proof, plan, 0));
    expect(text.startsWith('WEBVTT\n\n1\n00:00:00.000 --> 00:00:02.000\nCount-off\n1 <00:00:00.500>2')).toBe(
      true,
    );
    expect(text).toContain('bells &lt; reeds &amp; drums');
    const times = [...text.matchAll(/^(\S+) --> (\S+)$/gm)].map(([, from, to]) => [from, to]);
    expect(times.every(([from = '', to = '']) => from < to)).toBe(true);
    expect(times.slice(1).every(([from], index) => from === times[index]?.[1])).toBe(true);
  });

  test('SubRip has commas and no marks of its own', () => {
    const text = subRipOf(captionsOf(proof, plan, 3600));
    expect(text.startsWith('1\n01:00:00,000 --> 01:00:02,000\nCount-off\n1 2 3 4\n')).toBe(true);
    expect(text).toContain('bells < reeds & drums');
    expect(text).not.toContain('<0');
  });
});
