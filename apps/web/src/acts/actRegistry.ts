import { ACT_LAYERS, isSingleCharacter, pressName, type Act, type ActLayer, type KeyPress } from './act.ts';
import { actOfKeyMaybe, type KeySettings } from './ownKeys.ts';

/** Acts that belong together, as they are now, and what takes any key before them, such as text being typed. */
export interface ActGroup {
  readonly layer: ActLayer;
  readonly acts: readonly Act[];
  /** True where it took the press. */
  readonly takesKey?: ((press: KeyPress) => boolean) | undefined;
  /** What words and numbers that are sought could be meant to do: "7/8" to write it. */
  readonly offers?: ((sought: string) => readonly Act[]) | undefined;
}

/** All acts that can be done at the moment. Who shows something registers what can be done with it, and takes it back. */
export class ActRegistry {
  private readonly groups = new Map<symbol, ActGroup>();

  register(owner: symbol, group: ActGroup): void {
    this.groups.set(owner, group);
  }

  remove(owner: symbol): void {
    this.groups.delete(owner);
  }

  /** Groups with what comes first at the front; in one layer, what was registered last. */
  get inOrder(): readonly ActGroup[] {
    const rank = ({ layer }: ActGroup) => ACT_LAYERS.indexOf(layer);
    return [...this.groups.values()].reverse().sort((a, b) => rank(b) - rank(a));
  }

  /** The acts that can be listed and given keys, nearest first. */
  get all(): readonly Act[] {
    return this.inOrder.flatMap(({ acts }) => acts);
  }

  /** What is offered to do with words that are sought. */
  offered(sought: string): readonly Act[] {
    if (sought.trim() === '') return [];
    return this.inOrder.flatMap(({ offers }) => offers?.(sought.trim()) ?? []);
  }

  find(id: string): Act | undefined {
    return this.all.find((act) => act.id === id);
  }

  /** Does what a key is for, pressed at a moment of the page; false where it is for nothing. */
  press(press: KeyPress, { own, singleKeys }: KeySettings, atMs?: number): boolean {
    // What was given to an act as it is written is found so.
    const isOwn = !press.command && Object.values(own).includes(press.key);
    const key = isOwn ? press.key : pressName(press);
    for (const { acts, takesKey } of this.inOrder) {
      if (takesKey?.(press)) return true;
      if (!singleKeys && isSingleCharacter(key)) continue;
      const act = actOfKeyMaybe(
        acts.filter(({ may }) => may !== false),
        key,
        own,
      );
      if (!act) continue;
      if (!act.isTimed || !press.repeat) act.does(press, atMs);
      return true;
    }
    return false;
  }
}
