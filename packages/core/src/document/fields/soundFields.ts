import { pulseChoiceProblemMaybe } from '../../pulse/choice.ts';
import { formatPulseChoice, parsePulseChoice } from '../../pulse/text.ts';
import { formatRhythm, parseRhythm } from '../../rhythm/text.ts';
import { within } from '../fieldReader.ts';
import { always, type BarField } from './barField.ts';

const MAX_RHYTHM_TEXT = 2000;

export const pulseField: BarField<'pulse'> = {
  names: ['pulse'],
  read: ({ reader, fields, path, bar }) => {
    const choice = reader.parsedField(fields, 'pulse', path, parsePulseChoice);
    const problem = choice && pulseChoiceProblemMaybe(bar, choice);
    if (problem) reader.refuse(within(path, 'pulse'), fields['pulse'], problem);
    return problem ? undefined : choice;
  },
  write: (pulse) => ({ pulse: formatPulseChoice(pulse) }),
  words: ({ pulse }) => (pulse ? `beaten ${pulse}` : ''),
  staysLocal: always,
  inShorthand: true,
};

export const rhythmField: BarField<'rhythm'> = {
  names: ['rhythm'],
  read: ({ reader, fields, path, shared: { rhythms } }) => {
    const text = fields['rhythm'];
    const known = typeof text === 'string' ? rhythms.get(text) : undefined;
    if (known) return known;
    const rhythm = reader.parsedField(fields, 'rhythm', path, parseRhythm, MAX_RHYTHM_TEXT);
    if (rhythm && typeof text === 'string') rhythms.set(text, rhythm);
    return rhythm;
  },
  write: (rhythm) => ({ rhythm: formatRhythm(rhythm) }),
  words: ({ rhythm }) => (rhythm ? `notes ${rhythm}` : ''),
  staysLocal: always,
  inShorthand: true,
};
