import { formatOfFileMaybe } from '@anchorbeat/formats';
import { argument, CommandError, type Command } from '../command.ts';

/** From one format to another, by the endings of the files. */
export const convert: Command = {
  name: 'convert',
  usage: 'convert IN OUT',
  says: 'from one format to another, by the endings of the files',
  run: (context) => {
    const { piece } = context.read(argument(context, 0, 'the file to read'));
    const out = argument(context, 1, 'the file to write');
    const format = formatOfFileMaybe(out);
    if (!format) throw new CommandError(`${out} has an ending that no format is known by`);
    context.write(out, format.write(piece));
    return 0;
  },
};
