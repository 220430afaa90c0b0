/** A partwise score: each part a list of what stands inside its measures. A measure may begin with attributes in braces. */
export function score(
  parts: readonly (readonly string[])[],
  head = '',
  names: readonly string[] = [],
): Uint8Array {
  const list = parts
    .map(
      (_, index) =>
        `<score-part id="P${index + 1}"><part-name>${names[index] ?? `Part ${index + 1}`}</part-name></score-part>`,
    )
    .join('');
  const body = parts
    .map((measures, index) => `<part id="P${index + 1}">${measures.map(measure).join('')}</part>`)
    .join('');
  return bytes(
    `<?xml version="1.0" encoding="UTF-8"?><score-partwise version="4.0">${head}<part-list>${list}</part-list>${body}</score-partwise>`,
  );
}

function measure(content: string, index: number): string {
  const attributes = /^\{([^}]*)\}/.exec(content);
  const inner = attributes ? content.slice(attributes[0].length) : content;
  return `<measure ${attributes?.[1] ?? `number="${index + 1}"`}>${inner}</measure>`;
}

export const bytes = (text: string) => new TextEncoder().encode(text);

/** `4/4` as attributes with four divisions. */
export const time = (beats: string, type: string) =>
  `<attributes><divisions>4</divisions><time><beats>${beats}</beats><beat-type>${type}</beat-type></time></attributes>`;

/** Notes of so many divisions each. */
export const notes = (...durations: readonly number[]) =>
  durations
    .map(
      (duration) =>
        `<note><pitch><step>C</step><octave>4</octave></pitch><duration>${duration}</duration></note>`,
    )
    .join('');

export const rest = (duration: number) =>
  `<note><rest measure="yes"/><duration>${duration}</duration></note>`;

export const direction = (types: string, more = '') =>
  `<direction>${types
    .split('|')
    .map((type) => `<direction-type>${type}</direction-type>`)
    .join('')}${more}</direction>`;

export const metronome = (unit: string, perMinute: string) =>
  `<metronome>${unit
    .split(' ')
    .map((part) => (part === 'dot' ? '<beat-unit-dot/>' : `<beat-unit>${part}</beat-unit>`))
    .join('')}<per-minute>${perMinute}</per-minute></metronome>`;
