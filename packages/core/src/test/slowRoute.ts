import type { Piece } from '../piece/piece.ts';

/**
 * Writes out repeats the way one does with scissors: finds the innermost repeat, copies it as often as it is
 * played with the endings that fit each time, and goes on until no sign is left. Knows no jumps.
 */
export function slowRoute(piece: Piece): number[] {
  interface Slip {
    readonly bar: number;
    readonly opens: boolean;
    readonly closes: number;
    readonly ending: readonly number[] | undefined;
  }
  let slips: Slip[] = piece.bars.map((bar, index) => ({
    bar: index,
    opens: bar.startsRepeat === true,
    closes: typeof bar.endsRepeat === 'number' ? bar.endsRepeat : 0,
    ending: bar.ending,
  }));
  for (;;) {
    const close = slips.findIndex((slip) => slip.closes > 0);
    if (close < 0) return slips.map((slip) => slip.bar);
    const open = Math.max(
      0,
      slips.slice(0, close + 1).findLastIndex((slip) => slip.opens),
    );
    let end = close;
    while (slips[close]?.ending && slips[end + 1]?.ending) end++;
    const body = slips.slice(open, end + 1);
    const times = slips[close]?.closes ?? 1;
    const copies = Array.from({ length: times }, (_, pass) =>
      body
        .filter((slip) => !slip.ending || slip.ending.includes(pass + 1))
        .map((slip) => ({
          ...slip,
          opens: slip.opens && slip !== body[0],
          closes: slip === slips[close] ? 0 : slip.closes,
          ending: undefined,
        })),
    );
    slips = [...slips.slice(0, open), ...copies.flat(), ...slips.slice(end + 1)];
  }
}
