import { Injectable } from '@nestjs/common';

/** Somebody who may no longer do what they could: a sign-in that ended, or an account that leads an ensemble no more. */
export type Departure =
  | { readonly kind: 'signIn'; readonly signInId: string }
  | { readonly kind: 'member'; readonly accountId: string; readonly ensembleId: string };

/** Tells at once who has gone, so that what they still have open is closed. */
@Injectable()
export class Departures {
  private readonly listeners: Array<(departure: Departure) => void> = [];

  onDeparture(listener: (departure: Departure) => void): void {
    this.listeners.push(listener);
  }

  tell(departure: Departure): void {
    for (const listener of this.listeners) listener(departure);
  }
}
