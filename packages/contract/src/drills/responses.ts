import type { LogRunRequest, SaveDrillRequest } from './requests.ts';

type Fields<Request> = { readonly [Field in keyof Request]: Request[Field] };

/** Where something is in the newest revision of its piece: a written bar by index and printed number, and how many bars it has. */
interface PlaceNow {
  readonly barIndex: number;
  readonly label: string | null;
  readonly bars: number;
}

interface Placed {
  /** Left out where it is where it was noted, as far as is known; null where its bars were taken out. */
  readonly placeNow?: PlaceNow | null;
}

/** A drill kept with a piece. */
export interface DrillResponse extends Fields<SaveDrillRequest>, Placed {
  readonly id: string;
  readonly savedAt: string;
}

/** A run of the log. In a list the seams of its takes are where they are in the newest revision, as `placeNow` is. */
export interface RunResponse extends Fields<LogRunRequest>, Placed {
  readonly id: string;
}
