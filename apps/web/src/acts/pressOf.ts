import type { KeyPress } from './act.ts';

/** What is read of a key that comes down. */
export type PressedKey = Pick<
  KeyboardEvent,
  'key' | 'code' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey' | 'repeat' | 'getModifierState'
>;

/** Where keys of signs are on the keyboard whose signs acts are named by. */
const SIGNS: Readonly<Record<string, string>> = {
  BracketLeft: '[',
  BracketRight: ']',
  Comma: ',',
  Equal: '=',
  Minus: '-',
  Period: '.',
  Slash: '/',
};

/**
 * The press that a key coming down is; null where it is the browser's or the system's, as everything with alt is but a sign that
 * is written with it: on many keyboards brackets are.
 */
export function pressOfMaybe(event: PressedKey): KeyPress | null {
  const { key, shiftKey, ctrlKey, metaKey, altKey, repeat } = event;
  const isThirdLevel = event.getModifierState('AltGraph');
  const writesSign = !ctrlKey && !metaKey && /^[^\p{L}\p{N}\s]$/u.test(key);
  if (altKey && !isThirdLevel && !writesSign) return null;
  const command = (ctrlKey || metaKey) && !isThirdLevel;
  return { key, acts: actKeyOf(event), shift: shiftKey, command, repeat };
}

/**
 * The key by which acts are looked up: with caps lock a letter is a capital only with shift; and where letters of another script
 * are written, it is the Latin one that stands in the same place.
 */
function actKeyOf(event: PressedKey): string {
  const { key, code } = event;
  const isForeign = /^\p{L}$/u.test(key) && !/^\p{Script=Latin}$/u.test(key);
  const letter = isForeign ? (/^Key([A-Z])$/.exec(code)?.[1] ?? SIGNS[code] ?? key) : key;
  if (!/^[a-z]$/i.test(letter)) return letter;
  return isCapital(event) ? letter.toUpperCase() : letter.toLowerCase();
}

function isCapital(event: PressedKey): boolean {
  const upper = event.key.toUpperCase();
  const tellsNothing = upper === event.key.toLowerCase() || event.getModifierState('CapsLock');
  return tellsNothing ? event.shiftKey : event.key === upper;
}
