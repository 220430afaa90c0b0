import { shallowEqual } from 'react-redux';
import { useAppSelector } from './store.ts';
import type { TransportState } from './transportSlice.ts';

/** Some of what is known of the run that sounds: who asks is drawn anew when that changes, not at every beat. */
export function useTransport<Name extends keyof TransportState>(
  ...names: readonly Name[]
): Pick<TransportState, Name> {
  return useAppSelector(
    ({ transport }) =>
      Object.fromEntries(names.map((name) => [name, transport[name]])) as Pick<TransportState, Name>,
    shallowEqual,
  );
}
