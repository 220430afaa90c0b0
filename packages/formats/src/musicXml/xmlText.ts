/** Attributes of an element; those that are undefined are left out. */
type Attributes = Readonly<Record<string, string | number | undefined>>;

/** An element as text, with its content already text; empty content closes it at once. */
export function tag(
  name: string,
  content: string | readonly string[] = '',
  attributes: Attributes = {},
): string {
  const written = Object.entries(attributes)
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => ` ${key}="${escaped(String(value))}"`)
    .join('');
  const inner = typeof content === 'string' ? content : content.join('');
  return inner === '' ? `<${name}${written}/>` : `<${name}${written}>${inner}</${name}>`;
}

/** Text that XML can hold: its own signs escaped, what it cannot hold left out. */
export function escaped(text: string): string {
  return [...text]
    .filter((letter) => isXmlLetter(letter.codePointAt(0) ?? 0))
    .join('')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;');
}

/** XML 1.0, production 2 (Char). */
function isXmlLetter(code: number): boolean {
  if (code < 0x20) return code === 0x9 || code === 0xa || code === 0xd;
  return code <= 0xd7ff || (code >= 0xe000 && code <= 0xfffd) || code >= 0x10000;
}
