import type { AppStore } from '../store/store.ts';
import { levelSet, muteToggled } from '../store/transportSlice.ts';

/** How loud the click is; a fresh window starts quiet. */
export class Level {
  private isElsewhere = false;

  /** `isTurned` is called when another level is to be heard. */
  constructor(
    private readonly store: Pick<AppStore, 'getState' | 'dispatch'>,
    private readonly isTurned: () => void,
  ) {}

  /** From 0 to 1, also while it is muted. */
  get value(): number {
    return this.store.getState().transport.level;
  }

  get heard(): number {
    return this.isElsewhere || this.store.getState().transport.isMuted ? 0 : this.value;
  }

  /** Whether another window of this browser is heard instead. */
  setElsewhere(isElsewhere: boolean): void {
    this.isElsewhere = isElsewhere;
    this.isTurned();
  }

  /** Sets the level, from 0 to 1; it glides there. */
  set(level: number): void {
    this.store.dispatch(levelSet(Math.min(Math.max(level, 0), 1)));
    this.isTurned();
  }

  toggleMute(): void {
    this.store.dispatch(muteToggled());
    this.isTurned();
  }
}
