import type { LogRunRequest, SaveDrillRequest } from './requests.ts';

type Fields<Request> = { readonly [Field in keyof Request]: Request[Field] };

/** A drill kept with a piece. */
export interface DrillResponse extends Fields<SaveDrillRequest> {
  readonly id: string;
  readonly savedAt: string;
}

/** A run of the log. */
export interface RunResponse extends Fields<LogRunRequest> {
  readonly id: string;
}
