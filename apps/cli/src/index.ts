import { closeSync, openSync, readFileSync, renameSync, rmSync, writeSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { CommandError } from './command.ts';
import { main } from './main.ts';

process.exitCode = await main(process.argv.slice(2), {
  readFile: (file) => {
    try {
      return readFileSync(file);
    } catch {
      throw new CommandError(`${file} cannot be read: check its name and that it is there`);
    }
  },
  writeFile: (file, parts) => {
    const unfinished = `${file}.${process.pid}.part`;
    try {
      writeParts(unfinished, parts);
      renameSync(unfinished, file);
    } catch {
      rmSync(unfinished, { force: true });
      throw new CommandError(
        `${file} cannot be written: check that its folder is there and may be written to`,
      );
    }
  },
  print: (text) => process.stdout.write(text),
  readWords: (name) => {
    try {
      return readFileSync(new URL(`../../web/public/words/${name}`, import.meta.url));
    } catch {
      throw new CommandError('The spoken counts are not here: leave out --spoken, and they are clicked');
    }
  },
  readPackageFile: (name) => {
    try {
      return readFileSync(fileURLToPath(import.meta.resolve(name)));
    } catch {
      throw new CommandError(`${name} is not here: install Anchorbeat again`);
    }
  },
  complain: (text) => process.stderr.write(text),
});

function writeParts(file: string, parts: Iterable<Uint8Array>): void {
  const descriptor = openSync(file, 'w');
  try {
    for (const part of parts) for (let at = 0; at < part.length;) at += writeSync(descriptor, part, at);
  } finally {
    closeSync(descriptor);
  }
}
