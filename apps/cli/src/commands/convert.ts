import { bundledNotes, formatOfFileMaybe, type ReadingNote, type ReadingNotes } from '@anchorbeat/formats';
import { argument, CommandError, type Command } from '../command.ts';

/** From one format to another, by the endings of the files. */
export const convert: Command = {
  name: 'convert',
  usage: 'convert IN OUT',
  says: 'from one format to another, by the endings of the files',
  run: (context) => {
    const { piece, notes } = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the file to write');
    const format = formatOfFileMaybe(out);
    if (!format) throw new CommandError(`${out} has an ending that no format is known by`);
    context.write(out, [format.write(piece)]);
    if (notes) context.remark(notesText(notes));
    return 0;
  },
};

/** What was made of a foreign file, a line each. */
function notesText({ read, guessed, leftOut, findings }: ReadingNotes): string {
  const told = (name: string, notes: readonly ReadingNote[]) =>
    bundledNotes(notes).map(({ says, where }) => `${name}: ${where === null ? '' : `${where}: `}${says}\n`);
  return [
    `read: ${read.join(', ')}\n`,
    ...told('guessed', guessed),
    ...told('left out', leftOut),
    ...told('contradiction', findings),
  ].join('');
}
