import { expect, test } from '@jest/globals';
import { proofOf } from '../compile/compile.ts';
import { runFrom } from '../run/planRun.ts';
import { soundsOf } from '../run/sounds.ts';
import { pieceOf } from '../test/pieceOf.ts';
import { simulatedSections, soundsWithSections } from './simulatedSections.ts';
import { analysedTake } from './takeAnalysis.ts';

const plain = (count: number) => Array.from({ length: count }, () => ({}));
const proof = proofOf(
  pieceOf(
    { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }] },
    ...plain(5),
    { meter: '15/16 as 4+4+4+3' },
    { meter: '4/4' },
    ...plain(6),
  ),
);
const plan = runFrom(proof, 0);
const wish = { habit: 'filled-up', seed: 4, play: 'pulse' } as const;

test('three sections play along, each by itself, and every one of them is heard to have the habit', () => {
  const sections = simulatedSections(proof, plan, wish);
  expect(new Set(sections.map(({ onsets }) => onsets.join())).size).toBe(3);
  for (const { onsets } of sections)
    expect(analysedTake(proof, plan, { onsets, play: 'pulse' }).seams[0]?.explanation).toBe('filled-up');
  expect(simulatedSections(proof, plan, wish)).toEqual(sections);
});

test('all that sounded before sounds as before, and each onset once, in order, whatever windows are asked for', () => {
  const sections = simulatedSections(proof, plan, wish);
  const alone = soundsOf(proof, plan);
  const together = soundsWithSections(alone, sections);
  expect(together.lengthSeconds).toBe(alone.lengthSeconds);
  const end = plan.lengthSeconds + 1;
  const heard = [0, 0.7, 3.31, 12, 20].flatMap((fromSeconds, index, all) =>
    together.clicksIn({ fromSeconds, toSeconds: all[index + 1] ?? end }),
  );
  expect(heard.filter(({ part }) => part === undefined)).toEqual(
    alone.clicksIn({ fromSeconds: 0, toSeconds: end }),
  );
  sections.forEach(({ onsets }, part) =>
    expect(heard.filter((click) => click.part === part).map(({ timeSeconds }) => timeSeconds)).toEqual(
      onsets,
    ),
  );
  const times = heard.map(({ timeSeconds }) => timeSeconds);
  expect(times).toEqual([...times].sort((a, b) => a - b));
});
