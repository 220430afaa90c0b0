import { argument, type Command } from '../command.ts';

/** What the checks find, in reading order. Exit status 1 where something cannot be played as written. */
export const check: Command = {
  name: 'check',
  usage: 'check FILE',
  says: 'findings, one a line; exit status 1 where something cannot be played as written',
  run: (context) => {
    const { compiled } = context.read(argument(context, 0, 'the file to read'));
    for (const { severity, says, answer } of compiled.findings)
      context.print(`${severity}: ${says}${answer === null ? '' : ` (meant so: ${answer})`}\n`);
    return compiled.findings.some(({ severity, answer }) => severity === 'error' && answer === null) ? 1 : 0;
  },
};
