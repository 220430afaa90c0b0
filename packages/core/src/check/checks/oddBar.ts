import { formatMeter } from '../../meter/text.ts';
import type { Bar } from '../../piece/piece.ts';
import { oddBarMaybe } from '../../seam/oddBar.ts';
import type { Check, CheckContext, Found } from '../check.ts';
import { capital } from '../../words/capital.ts';

/** Single bars that are a fraction of a beat shorter or longer than their neighbours; one that returns is asked about once. */
export const oddBar: Check = {
  id: 'odd-bar',
  severity: 'question',
  name: 'A bar a little shorter or longer than its neighbours',
  explains:
    'It may be meant, or a misprint. If it is meant, it is where everyone will round up to a full bar.',
  looksAt: 'piece',
  find: (context) => [...oddBarsByKind(context).values()].flatMap((kind) => findingOf(context, kind)),
};

/** Odd bars of one meter between bars of another, in reading order. */
interface OddKind {
  readonly meter: string;
  readonly between: string;
  readonly words: string;
  readonly bars: number[];
}

function oddBarsByKind({ piece }: CheckContext): ReadonlyMap<string, OddKind> {
  const kinds = new Map<string, OddKind>();
  piece.bars.forEach((bar, barIndex) => {
    const odd = oddBarMaybe(piece, barIndex);
    if (!odd) return;
    const [meter, between] = [formatMeter(bar.meter), formatMeter((piece.bars[barIndex - 1] as Bar).meter)];
    const kind = kinds.get(`${meter} ${between}`) ?? { meter, between, words: odd.words, bars: [] };
    kind.bars.push(barIndex);
    kinds.set(`${meter} ${between}`, kind);
  });
  return kinds;
}

function findingOf(context: CheckContext, kind: OddKind): readonly Found[] {
  const [first = 0, ...returns] = kind.bars;
  const where = { ...kind, names: listed(kind.bars.map((barIndex) => barNumber(context, barIndex))) };
  if (returns.length === 0) return [loneBar(context, where, first)];
  return [differingBarMaybe(context, where) ?? pattern(where, first)];
}

function loneBar(
  { piece, nameOf }: CheckContext,
  { meter, between, words }: OddKind,
  barIndex: number,
): Found {
  const neighbour = piece.bars[barIndex - 1] as Bar;
  return {
    barIndex,
    says: `${capital(nameOf(barIndex))} is ${meter}, ${words} between bars of ${between}: on purpose?`,
    correction: {
      label: `Make it ${between}`,
      edit: { kind: 'setMeter', from: barIndex, count: 1, meter: neighbour.meter },
    },
  };
}

type NamedKind = OddKind & { readonly names: string };

/** Nobody misprints the same bar again and again: it is one question, about all of them. */
function pattern({ meter, between, words, bars, names }: NamedKind, first: number): Found {
  const every = periodMaybe(bars);
  const often = every ? `, every ${every} bars` : '';
  return {
    barIndex: first,
    says: `Bars ${names} are ${meter}, ${words} between bars of ${between}${often}: on purpose?`,
  };
}

/** Where the odd bar returns at one distance and is missing once, or comes once between: that bar is asked about instead. */
function differingBarMaybe(context: CheckContext, kind: NamedKind): Found | null {
  const { piece, nameOf } = context;
  const gaps = kind.bars.slice(1).map((bar, index) => bar - (kind.bars[index] as number));
  const least = Math.min(...gaps);
  const doubled = gaps.findIndex((gap) => gap === 2 * least);
  const others = gaps.filter((_, index) => index !== doubled);
  if (doubled < 0 || others.length < 2 || others.some((gap) => gap !== least)) return null;
  const missing = (kind.bars[doubled] as number) + least;
  const bar = piece.bars[missing];
  if (!bar || bar.partial || formatMeter(bar.meter) !== kind.between) return null;
  const meter = (piece.bars[kind.bars[0] as number] as Bar).meter;
  return {
    barIndex: missing,
    says: `Bars ${kind.names} are ${kind.meter}, but ${nameOf(missing)}, where it would come again, is ${kind.between}: on purpose?`,
    correction: {
      label: `Make it ${kind.meter}`,
      edit: { kind: 'setMeter', from: missing, count: 1, meter },
    },
  };
}

/** The one distance at which bars return; null where there are several. */
function periodMaybe(bars: readonly number[]): number | null {
  const [first = 0, second = 0] = bars;
  const every = second - first;
  return bars.every((bar, index) => bar === first + index * every) ? every : null;
}

const MOST_NAMED = 6;

/** "5, 9 and 13"; a long row keeps its beginning. */
function listed(names: readonly string[]): string {
  const more = names.length - MOST_NAMED;
  if (more > 0) return `${names.slice(0, MOST_NAMED).join(', ')} and ${more} more`;
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;
}

function barNumber({ nameOf }: CheckContext, barIndex: number): string {
  return nameOf(barIndex).replace(/^bar /, '');
}
