import { PLAIN_COUNT_OFF } from '../../countoff/settings.ts';
import type { CountOffDocument } from '../document.ts';
import { within } from '../fieldReader.ts';
import { readCountOff } from '../readCountOff.ts';
import { always, type BarField } from './barField.ts';
import { howMany } from '../../words/howMany.ts';

/** How a bar is counted in; what is left out is as in a plain count-off. */
export const countOffField: BarField<'countOff'> = {
  names: ['countOff'],
  read: ({ reader, fields, path }) => readCountOff(reader, fields['countOff'], within(path, 'countOff')),
  write: ({ bars, school, style, breathOnLastBeat, cueWord, firstNote }) => ({
    countOff: {
      ...(bars !== PLAIN_COUNT_OFF.bars && { bars }),
      ...(school !== PLAIN_COUNT_OFF.school && { school }),
      ...(style !== PLAIN_COUNT_OFF.style && { style }),
      ...(breathOnLastBeat && { breathOnLastBeat: true as const }),
      ...(cueWord !== null && { cueWord }),
      ...(firstNote !== null && { firstNote }),
    },
  }),
  words: ({ countOff }) => (countOff ? `count-off ${countOffWords(countOff)}` : ''),
  staysLocal: always,
  inShorthand: false,
};

function countOffWords(countOff: CountOffDocument): string {
  const { bars, style, school, cueWord, breathOnLastBeat, firstNote } = countOff;
  const words = [
    bars !== undefined && howMany(bars, 'bar'),
    style,
    school,
    cueWord && `cue word ${cueWord}`,
    breathOnLastBeat && 'breath',
    firstNote !== undefined && `from note ${firstNote}`,
  ];
  return words.filter(Boolean).join(', ') || 'plain';
}
