import { SECTION_ACTS, type Answer, type SectionMark } from '../../piece/piece.ts';
import { within, type FieldReader } from '../fieldReader.ts';
import { always, filledMaybe, type BarField } from './barField.ts';

const MAX_ABOUT_TEXT = 4000;

export const answersField: BarField<'answers'> = {
  names: ['answers'],
  read: ({ reader, fields, path }) =>
    filledMaybe(
      reader.list<Answer>(fields['answers'], `${path}.answers`, 'Answers come as a list', (answer, at) =>
        readAnswer(reader, answer, at),
      ),
    ),
  write: (answers) => ({ answers }),
  words: ({ answers = [] }) => answers.map(({ reason }) => `meant so: ${reason}`).join(', '),
  staysLocal: always,
  inShorthand: false,
};

/** What sections do from a bar on; at most one mark a section. */
export const sectionMarksField: BarField<'sectionMarks'> = {
  names: ['sections'],
  read: ({ reader, fields, path }) =>
    filledMaybe(
      reader.list<SectionMark>(
        fields['sections'],
        `${path}.sections`,
        'What sections do comes as a list',
        (mark, at, before) => readSectionMark(reader, mark, at, before),
      ),
    ),
  write: (sections) => ({ sections }),
  words: ({ sections = [] }) =>
    sections.map(({ section, does, says }) => `${section} ${does}${says ? ` (${says})` : ''}`).join(', '),
  staysLocal: always,
  inShorthand: false,
};

function readSectionMark(
  reader: FieldReader,
  value: unknown,
  path: string,
  before: readonly SectionMark[],
): SectionMark | null {
  const fields = reader.fields(value, path, ['section', 'does', 'says']);
  if (!fields) return null;
  const section = reader.text(fields, 'section', path);
  const does = SECTION_ACTS.find((act) => act === fields['does']);
  const says = reader.text(fields, 'says', path);
  if (!does) reader.refuse(within(path, 'does'), fields['does'], `A section ${SECTION_ACTS.join(', or ')}`);
  if (!section) reader.refuse(within(path, 'section'), fields['section'], 'Name the section');
  if (!section || !does) return null;
  if (before.some((mark) => mark.section === section)) {
    reader.refuse(within(path, 'section'), section, `${section} is told twice what to do in one bar`);
    return null;
  }
  return { section, does, ...(says !== undefined && { says }) };
}

function readAnswer(reader: FieldReader, value: unknown, path: string): Answer | null {
  const fields = reader.fields(value, path, ['check', 'reason', 'about']);
  if (!fields) return null;
  const [check, reason] = [reader.text(fields, 'check', path), reader.text(fields, 'reason', path)];
  const about = fields['about'];
  if (check && reason !== undefined && typeof about === 'string' && about.length <= MAX_ABOUT_TEXT)
    return { check, reason, about };
  reader.refuse(path, value, 'An answer names its check, its reason and what it was about');
  return null;
}
