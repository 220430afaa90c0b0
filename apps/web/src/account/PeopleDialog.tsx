import type { EnsembleResponse } from '@anchorbeat/contract';
import {
  useEndPlaceMutation,
  useGetSessionQuery,
  useListPlacesQuery,
  useSignOutMutation,
} from '../store/peopleApi.ts';
import { DialogShell } from '../ui/DialogShell.tsx';
import { RowAct } from '../ui/RowAct.tsx';
import { Members } from './Members.tsx';
import { PasswordChange } from './PasswordChange.tsx';

const SEEN = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

interface PeopleDialogProps {
  /** Null where one leads none. */
  readonly ensemble: EnsembleResponse | null;
  readonly onClose: () => void;
}

/** Who leads the ensemble, and where one is signed in. Players need no account. */
export function PeopleDialog({ ensemble, onClose }: PeopleDialogProps) {
  const { data: session } = useGetSessionQuery();
  const isLocal = session?.signedIn?.isLocal ?? false;
  return (
    <DialogShell
      title="Who leads"
      description="Directors and co-directors sign in; players join a rehearsal with its code and need no account."
      width="middle"
      onClose={onClose}
    >
      {isLocal ? (
        <p className="mt-5 max-w-[34rem]">
          Whoever sits at this machine opens everything. Sign out to make the first account; then others can
          be added here and phones can join from the hall.
        </p>
      ) : (
        ensemble && <Members ensemble={ensemble} />
      )}
      {!isLocal && <PasswordChange />}
      <Places />
    </DialogShell>
  );
}

function Places() {
  const { data: places = [] } = useListPlacesQuery();
  const [end] = useEndPlaceMutation();
  const [signOut] = useSignOutMutation();
  return (
    <section className="mt-5" aria-label="Where you are signed in">
      <h3 className="font-display text-lg font-bold">Where you are signed in</h3>
      <ul className="mt-1">
        {places.map(({ id, device, lastSeen, isThis }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-3 border-b border-faint py-1.5">
            <span>{device}</span>
            <span className="text-quiet">{isThis ? 'here' : `last ${SEEN.format(new Date(lastSeen))}`}</span>
            <span className="ml-auto">
              <RowAct words="sign out" onPress={() => void (isThis ? signOut() : end(id))} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
