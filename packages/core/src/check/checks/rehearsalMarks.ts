import { eachBar, type Check } from '../check.ts';

/** A rehearsal mark that stands over two places. */
export const rehearsalMarks: Check = {
  id: 'rehearsal-marks',
  severity: 'question',
  name: 'Two rehearsal marks of one name',
  explains: '“From letter C” must mean one place.',
  looksAt: 'marks',
  find: (context) => {
    const first = new Map<string, number>();
    return eachBar(context, (_context, { rehearsalMark }, barIndex) => {
      if (rehearsalMark === undefined) return null;
      const name = rehearsalMark.trim().toLowerCase();
      const before = first.get(name);
      if (before === undefined) {
        first.set(name, barIndex);
        return null;
      }
      const places = `${context.nameOf(before)} and ${context.nameOf(barIndex)}`;
      return { says: `The mark ${rehearsalMark.trim()} stands at two places, ${places}: which is meant?` };
    });
  },
};
