/** Which acts come first where several answer to one key: the nearer to what is being looked at. */
export const ACT_LAYERS = ['app', 'screen', 'view', 'panel', 'typing'] as const;
export type ActLayer = (typeof ACT_LAYERS)[number];

export type Pedal = 'right pedal' | 'left pedal';

/** Something a screen can do: said once, from which come its key, its button, its name and its line in the list of acts. */
export interface Act {
  /** Which it is among all acts of the program: "podium.run". A key of one's own is kept under it. */
  readonly id: string;
  /** The key it has where it was given no other, as the browser names it; capitals want shift. Empty for none. */
  readonly key: string;
  /** What it does, in words that stand alone: its accessible name, and its line in the list of acts. */
  readonly name: string;
  /** What stands beside its key where room is short; empty where the key says enough beside its neighbour. */
  readonly label?: string;
  /** How things are now, where the act changes that: it stands beside the key instead. */
  readonly state?: string;
  /** Under which heading it is listed. */
  readonly group: string;
  /** Further keys, which cannot be exchanged: arrows of another keyboard, a minus sign of another. */
  readonly alsoKeys?: readonly string[];
  /** The pedal that does it, also a page turner. */
  readonly pedal?: Pedal;
  /** False where there is nothing to do at the moment; its key then goes to what comes after it. */
  readonly may?: boolean;
  /** True where the moment counts: it is done as a finger comes down, not as it is let go of, and not again while a key is held. */
  readonly isTimed?: boolean;
  /**
   * `press` is the key it was done by, where it was done by one; `atMs` the moment of the key or the finger itself, by the clock of
   * the page, however late it is told.
   */
  readonly does: (press?: KeyPress, atMs?: number) => void;
}

/** A key as it was pressed. */
export interface KeyPress {
  /** What it writes. */
  readonly key: string;
  /** The key by which acts are looked up, where that is another: on a keyboard of another script, or with caps lock. */
  readonly acts?: string;
  readonly shift: boolean;
  readonly command: boolean;
  /** Pressed by being held. */
  readonly repeat?: boolean;
}

/** Keys by which a pedal comes in: from a MIDI pedal, and from a page turner. */
export const PEDAL_KEYS: Readonly<Record<Pedal, readonly string[]>> = {
  'right pedal': ['pedal 64', 'PageDown'],
  'left pedal': ['pedal 67', 'PageUp'],
};

const SHOWN_KEYS: Readonly<Record<string, string>> = {
  ' ': 'space',
  '-': '−',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'esc',
  Delete: 'del',
  'ctrl+z': 'ctrl z',
  'ctrl+Z': 'ctrl ⇧ z',
};

/** A key as it is shown: "⇧D", "space", "→". */
export function shownKey(key: string): string {
  return SHOWN_KEYS[key] ?? (/^[A-Z]$/.test(key) ? `⇧${key}` : key);
}

/** The name a press is looked up by: "ctrl+z" with the command key, else the key itself. */
export function pressName({ key, acts = key, command, shift }: KeyPress): string {
  if (!command) return acts;
  const letter = shift ? acts.toUpperCase() : acts.toLowerCase();
  return `ctrl+${letter}`;
}

/** Whether a key is a single character that a slip of the hand, or speech input, may press: it can be given another or none. */
export function isSingleCharacter(key: string): boolean {
  return [...key].length === 1 && key !== ' ';
}

/** What is seen of an act beside its key. */
export function shownWords({ name, label, state }: Act): string {
  return state ?? label ?? name;
}

/** What an act is called where it is not seen: with how things are now, and never by its key alone. */
export function accessibleName({ name, label, state }: Act): string {
  return state === undefined ? label || name : `${name}: ${state}`;
}
