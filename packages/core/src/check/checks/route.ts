import { spanName } from '../../edit/bars.ts';
import { readRepeats, timesOnPaper, type Repeat } from '../../route/repeats.ts';
import { jumpsTaken } from '../../route/route.ts';
import { capital } from '../../words/capital.ts';
import type { Check, CheckContext, Found } from '../check.ts';

/** Repeats that do not come out: not closed, endings missing, doubled or belonging nowhere. */
export const repeats: Check = {
  id: 'repeats',
  severity: 'question',
  name: 'Repeats that do not come out',
  explains: 'Players will disagree about where to go back to, and how often.',
  looksAt: 'marks',
  find: (context) => {
    const { nameOf } = context;
    const reading = readRepeats(context.piece);
    return [
      ...reading.unclosedStarts.map((barIndex) => ({
        barIndex,
        says: `The repeat that opens at ${nameOf(barIndex)} is never closed`,
      })),
      ...reading.strayEndings.map(({ from, passes }) => ({
        barIndex: from,
        says: `The ending ${passes.join(', ')} at ${nameOf(from)} belongs to no repeat`,
      })),
      ...reading.repeats.flatMap((repeat) => endingFindings(repeat, nameOf)),
    ];
  },
};

function endingFindings(repeat: Repeat, nameOf: CheckContext['nameOf']): Found[] {
  if (repeat.endings.length === 0) return [];
  const passes = repeat.endings.flatMap((ending) => ending.passes);
  const barIndex = repeat.endings[0]?.from ?? repeat.start;
  const missing = Array.from({ length: timesOnPaper(repeat) }, (_, pass) => pass + 1).filter(
    (pass) => !passes.includes(pass),
  );
  const doubled = passes.filter((pass, index) => passes.indexOf(pass) !== index);
  const found: Found[] = [];
  if (missing.length > 0)
    found.push({
      barIndex,
      says: `There is no ending for time ${missing.join(' and ')} of the repeat from ${nameOf(repeat.start)}`,
    });
  if (doubled.length > 0)
    found.push({
      barIndex,
      says: `Time ${doubled.join(' and ')} of the repeat from ${nameOf(repeat.start)} has two endings`,
    });
  return found;
}

/** D.C., D.S., coda and fine whose counterpart is missing. */
export const jumps: Check = {
  id: 'jumps',
  severity: 'error',
  name: 'Jumps that lead nowhere',
  explains: 'A sign without its counterpart leaves everyone to guess.',
  looksAt: 'marks',
  find: (context) => {
    const { piece, nameOf } = context;
    const find = (sign: 'segno' | 'coda' | 'toCoda' | 'fine') =>
      piece.bars.findIndex((bar) => bar.navigation?.[sign]);
    const [segno, coda, toCoda, fine] = [find('segno'), find('coda'), find('toCoda'), find('fine')];
    const found: Found[] = [];
    let hasJump = false;
    piece.bars.forEach(({ navigation }, barIndex) => {
      const jump = navigation?.jump;
      if (!jump) return;
      hasJump = true;
      const missing = [
        jump.to === 'segno' && segno < 0 && 'segno to go back to',
        jump.al === 'coda' && toCoda < 0 && 'sign from which to go to the coda',
        jump.al === 'coda' && coda < 0 && 'coda',
        jump.al === 'fine' && fine < 0 && 'fine',
      ].filter((what) => what !== false);
      for (const what of missing)
        found.push({ barIndex, says: `The jump at ${nameOf(barIndex)} finds no ${what}` });
    });
    if (toCoda >= 0 && coda < 0)
      found.push({ barIndex: toCoda, says: `${nameOf(toCoda)} sends to a coda that is not there` });
    if (coda >= 0 && toCoda < 0)
      found.push({ barIndex: coda, says: `Nothing sends to the coda at ${nameOf(coda)}` });
    if (fine >= 0 && !hasJump)
      found.push({ barIndex: fine, says: `Fine at ${nameOf(fine)}, but no D.C. or D.S. comes back to it` });
    return hasJump ? [...found, ...passedBy(context, fine >= 0, toCoda >= 0 && coda >= 0)] : found;
  },
};

/** Jumps that say where to end or leave, and are never brought there: the sign is there, but not on their way. */
function passedBy({ piece, timeline, nameOf }: CheckContext, hasFine: boolean, hasCoda: boolean): Found[] {
  if (timeline.route.loopsAtBar !== undefined) return [];
  return jumpsTaken(piece).flatMap(({ jump, bar, cameTo }) => {
    if (cameTo !== null) return [];
    const sign =
      jump.al === 'fine' && hasFine
        ? 'a fine'
        : jump.al === 'coda' && hasCoda
          ? 'the sign that sends to the coda'
          : null;
    return sign === null
      ? []
      : [{ barIndex: bar, says: `The jump at ${nameOf(bar)} never comes to ${sign}` }];
  });
}

/** Bars that no pass through the piece comes to. */
export const unplayedBars: Check = {
  id: 'unplayed-bars',
  severity: 'question',
  name: 'Bars that are never played',
  explains:
    'What is written and never comes is rehearsed by nobody: a jump, an ending or a coda may lack its sign.',
  looksAt: 'marks',
  find: ({ piece, timeline: { route } }) => {
    if (route.loopsAtBar !== undefined) return [];
    const { bars } = piece;
    const isPlayed = new Uint8Array(bars.length);
    for (const bar of route.barIndex) isPlayed[bar] = 1;
    const found: Found[] = [];
    for (let from = 0; from < bars.length; from++) {
      if (isPlayed[from]) continue;
      let to = from;
      while (to + 1 < bars.length && !isPlayed[to + 1]) to++;
      const span = spanName(piece, { from, count: to - from + 1 });
      found.push({ barIndex: from, says: `${capital(span)} ${to === from ? 'is' : 'are'} never played` });
      from = to;
    }
    return found;
  },
};

/** A route that does not end. */
export const endlessRoute: Check = {
  id: 'endless-route',
  severity: 'error',
  name: 'A piece that does not end',
  explains: 'The repeats multiply beyond a hundred times the written bars; the rest is not compiled.',
  looksAt: 'marks',
  find: ({ timeline: { route }, nameOf }) =>
    route.loopsAtBar === undefined
      ? []
      : [
          {
            barIndex: route.loopsAtBar,
            says: `The repeats around ${nameOf(route.loopsAtBar)} never come to an end: check how many times they are played`,
          },
        ],
};
