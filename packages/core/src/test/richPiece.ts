import { PLAIN_COUNT_OFF } from '../countoff/settings.ts';
import { compare, fraction } from '../fraction/fraction.ts';
import { barLength, type Bar, type Hold, type Navigation, type Piece } from '../piece/piece.ts';
import { beatNumbers } from '../pulse/choice.ts';
import { parseRhythm } from '../rhythm/text.ts';
import { RAMP_SHAPES } from '../tempo/ramp.ts';
import type { RampTarget, TempoMark } from '../tempo/tempoMark.ts';
import { noteValue } from '../value/noteValue.ts';
import { randomPiece } from './randomPiece.ts';
import { seededRandom } from '../random/seededRandom.ts';

const RHYTHMS = ['q q q q', 'e3 e3 e3 q', 'h~ q rq', 'rw', 's s s s e. s', 'q. [7:5 sixteenth]'];

/** A random piece with everything a part can say about time: ramps, holds, signs of any kind, in any order, sound or not. */
export function richPiece(seed: number, barCount: number): Piece {
  const random = seededRandom(seed + 9000);
  const below = (limit: number) => Math.floor(random() * limit);
  const target = (): RampTarget | null =>
    [
      { kind: 'tempo', tempo: { unit: noteValue('quarter'), bpm: fraction(50 + below(120)) } } as const,
      { kind: 'ratio', ratio: fraction(1 + below(4), 1 + below(4)) } as const,
      { kind: 'a tempo' } as const,
      { kind: 'tempo primo' } as const,
      null,
    ][below(5)] ?? null;
  const withRamp = (mark: TempoMark): TempoMark => {
    const pick = below(6);
    if (pick === 0)
      return { ...mark, ramp: { shape: RAMP_SHAPES[below(3)] ?? 'even ratio', target: target() } };
    if (pick === 1) return { atWholes: mark.atWholes, endsRamp: true };
    return pick === 2 ? { atWholes: mark.atWholes, returns: below(2) ? 'a tempo' : 'tempo primo' } : mark;
  };
  const hold = (): Hold => ({
    kind: below(3) ? 'hold' : 'breath',
    atWholes: fraction(0),
    length: [
      { kind: 'beats', beats: fraction(1 + below(3), 2) } as const,
      { kind: 'seconds', seconds: fraction(1 + below(5), 4) } as const,
      { kind: 'until cued' } as const,
    ][below(3)] ?? { kind: 'until cued' },
    ...(below(2) === 0 && { value: noteValue('quarter') }),
  });
  const navigation = (): Navigation | undefined => {
    const pick = below(60);
    const signs: Readonly<Record<number, Navigation>> = {
      0: { segno: true },
      1: { coda: true },
      2: { toCoda: true },
      3: { fine: true },
      4: { jump: { to: 'start', al: 'fine' } },
      5: { jump: { to: 'segno', al: 'coda' } },
      6: { jump: { to: 'start' } },
    };
    return signs[pick];
  };
  const enriched = (bar: Bar): Bar => {
    const signs = navigation();
    const rhythm = below(4) === 0 ? parseRhythm(RHYTHMS[below(RHYTHMS.length)] ?? 'q') : null;
    const numbers = beatNumbers(bar.meter);
    const holds = below(12) === 0 ? [hold()] : null;
    return {
      ...bar,
      tempoMarks: bar.tempoMarks.map(withRamp),
      ...(holds && { holds }),
      ...(below(9) === 0 && { startsRepeat: true as const }),
      ...(below(9) === 0 && { endsRepeat: below(8) ? 2 + below(2) : ('until cued' as const) }),
      ...(below(8) === 0 && { ending: below(2) ? [1] : [2] }),
      ...(signs && { navigation: signs }),
      ...(rhythm?.ok && { rhythm: rhythm.value }),
      ...(below(10) === 0 && { sectionMarks: [{ section: 'Bells', does: 'enters' as const }] }),
      ...(below(10) === 0 && { note: 'lift' }),
      ...(below(14) === 0 && { countOff: { ...PLAIN_COUNT_OFF, bars: 2, cueWord: 'now' } }),
      ...(below(6) === 0 && { pulse: { kind: 'in' as const, beats: numbers[below(numbers.length)] ?? 1 } }),
    };
  };
  const piece = randomPiece(seed, barCount);
  const bars = piece.bars.map(enriched);
  return { ...piece, bars: bars.filter((bar) => compare(barLength(bar), fraction(0)) > 0) };
}
