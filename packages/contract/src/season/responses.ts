import type { SaveDateRequest } from './requests.ts';

/** A rehearsal or a concert of an ensemble. */
export type DateResponse = { readonly [Field in keyof SaveDateRequest]: SaveDateRequest[Field] } & {
  readonly id: string;
};
