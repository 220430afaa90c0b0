import { equal } from '../../fraction/fraction.ts';
import type { Hold } from '../../piece/piece.ts';
import type { BarCheck } from '../check.ts';

/** A hold that does not say how it is let go. */
export const holdRelease: BarCheck = {
  id: 'hold-release',
  severity: 'hint',
  name: 'A hold without a release',
  explains: 'Without a break or a cue the ensemble leaves the note one by one.',
  looksAt: 'bar',
  at: (context, { holds }, barIndex) => {
    const open = holds?.find(
      (hold) => hold.kind === 'hold' && hold.length.kind !== 'until cued' && !hasBreath(holds, hold),
    );
    if (!holds || !open || barIndex === context.piece.bars.length - 1) return null;
    const breath: Hold = {
      kind: 'breath',
      atWholes: open.atWholes,
      length: { kind: 'seconds', seconds: { n: 1, d: 2 } },
    };
    return {
      says: `The hold in ${context.nameOf(barIndex)} runs straight on: say how it is released, with a breath or until cued`,
      correction: {
        label: 'Put a breath of half a second after it',
        edit: { kind: 'setHolds', bar: barIndex, holds: [...holds, breath] },
      },
    };
  },
};

function hasBreath(holds: readonly Hold[], hold: Hold): boolean {
  return holds.some((other) => other.kind === 'breath' && equal(other.atWholes, hold.atWholes));
}
