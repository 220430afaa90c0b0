import { SaxesParser } from 'saxes';
import type { OnProgress } from '../format.ts';

/** An element with everything inside it. */
export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: XmlElement[];
  text: string;
}

/** What is wrong with a file, told to a person. */
export class XmlProblem extends Error {}

/** Decides by its ancestors' names whether an element is wanted whole. */
export type IsWanted = (name: string, path: readonly OpenElement[]) => boolean;

export interface OpenElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
}

/** Called with each wanted element once it is closed, and with what it stands in. */
export type OnElement = (element: XmlElement, path: readonly OpenElement[]) => void;

const PIECE_LENGTH = 65_536;
const MOST_DEPTH = 48;
const MOST_ELEMENTS_IN_ONE = 60_000;
const MOST_TEXT = 20_000;
const MOST_ATTRIBUTE_TEXT = 4000;

/**
 * Reads XML from beginning to end, giving the wanted elements one after another; nothing else is kept. No document type
 * is looked up and none may define entities.
 * @throws XmlProblem with the line where it does not read, nests too deeply or holds too much in one place.
 */
export function readXml(
  text: string,
  isWanted: IsWanted,
  onElement: OnElement,
  onProgress?: OnProgress,
): void {
  const parser = new SaxesParser({ xmlns: false, position: true });
  const path: OpenElement[] = [];
  const inside: XmlElement[] = [];
  let count = 0;
  const refuse = (message: string): never => {
    throw new XmlProblem(`Line ${parser.line}: ${message}`);
  };
  parser.on('error', (error) => {
    throw new XmlProblem(`Line ${parser.line}: this does not read as XML (${plainReason(error)})`);
  });
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY|\[/i.test(doctype))
      refuse('the file defines entities of its own, which is refused for safety');
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (path.length + inside.length >= MOST_DEPTH) refuse('elements are nested too deeply for a score');
    for (const value of Object.values(attributes))
      if (value.length > MOST_ATTRIBUTE_TEXT) refuse('an attribute is longer than any score needs');
    const parent = inside.at(-1);
    if (!parent && !isWanted(name, path)) {
      path.push({ name, attributes });
      return;
    }
    if (!parent) count = 0;
    if (++count > MOST_ELEMENTS_IN_ONE) refuse('there is more in one place than any score needs');
    const element: XmlElement = { name, attributes, children: [], text: '' };
    parent?.children.push(element);
    inside.push(element);
  });
  parser.on('text', (chunk) => {
    const open = inside.at(-1);
    if (!open) return;
    if (open.text.length + chunk.length > MOST_TEXT) refuse('a text is longer than any score needs');
    open.text += chunk;
  });
  parser.on('closetag', () => {
    const closed = inside.pop();
    if (!closed) path.pop();
    else if (inside.length === 0) onElement(closed, path);
  });
  for (let at = 0; at < text.length; at += PIECE_LENGTH) {
    parser.write(text.slice(at, at + PIECE_LENGTH));
    onProgress?.(at / text.length);
  }
  parser.close();
}

function plainReason(error: Error): string {
  return error.message.replace(/^\d+:\d+:\s*/, '').replace(/\.$/, '');
}

/** The first child of a name, or undefined. */
export function child(element: XmlElement | undefined, name: string): XmlElement | undefined {
  return element?.children.find((each) => each.name === name);
}

export function childrenOf(element: XmlElement | undefined, name: string): readonly XmlElement[] {
  return element?.children.filter((each) => each.name === name) ?? [];
}

/** The text of a child, trimmed; empty where there is none. */
export function childText(element: XmlElement | undefined, name: string): string {
  return child(element, name)?.text.trim() ?? '';
}
