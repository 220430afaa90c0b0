import type { EnsembleResponse } from '@anchorbeat/contract';
import { useState, type FormEvent } from 'react';
import { problemText } from '../store/api.ts';
import {
  useAddMemberMutation,
  useDirects,
  useEndPlaceMutation,
  useGetSessionQuery,
  useListMembersQuery,
  useListPlacesQuery,
  useRemoveMemberMutation,
  useSignOutMutation,
} from '../store/peopleApi.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { TextField } from '../ui/TextField.tsx';
import { toast } from '../ui/toast.ts';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { PasswordChange } from './PasswordChange.tsx';

const ROLE_NAMES = { director: 'director', coDirector: 'co-director' } as const;
const SEEN = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
const EMPTY = { name: '', displayName: '', password: '', role: 'coDirector' as keyof typeof ROLE_NAMES };

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
        ensemble && <Members ensembleId={ensemble.id} />
      )}
      {!isLocal && <PasswordChange />}
      <Places />
    </DialogShell>
  );
}

function Members({ ensembleId }: { readonly ensembleId: string }) {
  const { data: members = [] } = useListMembersQuery(ensembleId);
  const directs = useDirects(ensembleId);
  const [remove] = useRemoveMemberMutation();
  const [problem, setProblem] = useState('');
  return (
    <>
      <ul className="mt-5 grid gap-1" aria-label="Who leads">
        {members.map(({ accountId, name, displayName, role }) => (
          <li key={accountId} className="flex flex-wrap items-baseline gap-x-3 border-b border-faint py-1.5">
            <b>{displayName}</b>
            <span className="text-quiet">
              {name} · {ROLE_NAMES[role]}
            </span>
            {directs && (
              <button
                type="button"
                className="ml-auto whitespace-nowrap text-quiet underline"
                onClick={() =>
                  void remove({ ensembleId, accountId })
                    .unwrap()
                    .catch((error: unknown) => setProblem(problemText(error)))
                }
              >
                take out
              </button>
            )}
          </li>
        ))}
      </ul>
      {directs && (
        <>
          <NewMember ensembleId={ensembleId} onProblem={setProblem} />
          <p role="alert" className="mt-2 min-h-6 text-problem">
            {problem}
          </p>
        </>
      )}
    </>
  );
}

interface NewMemberProps {
  readonly ensembleId: string;
  /** Called with what is wrong; with nothing as it is tried again. */
  readonly onProblem: (problem: string) => void;
}

/** A further one who leads, by a name and a first password. */
function NewMember({ ensembleId, onProblem }: NewMemberProps) {
  const [add, { isLoading }] = useAddMemberMutation();
  const [wanted, setWanted] = useState(EMPTY);
  const change = (changes: Partial<typeof EMPTY>) => setWanted({ ...wanted, ...changes });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onProblem('');
    add({ ensembleId, ...wanted })
      .unwrap()
      .then((members) => {
        const known = members.find(({ keepsPassword }) => keepsPassword);
        if (known) toast(`${known.name} has an account here already, and signs in with the password it has`);
        setWanted(EMPTY);
      })
      .catch((error: unknown) => onProblem(problemText(error)));
  };
  return (
    <form className="mt-4 grid gap-3 sm:grid-cols-3" onSubmit={submit}>
      <TextField
        labelStands="above"
        label="Called"
        value={wanted.displayName}
        onText={(displayName) => change({ displayName })}
      />
      <TextField
        labelStands="above"
        label="Signs in as"
        value={wanted.name}
        onText={(name) => change({ name })}
      />
      <TextField
        labelStands="above"
        label="First password"
        type="password"
        autoComplete="new-password"
        value={wanted.password}
        onText={(password) => change({ password })}
      />
      <div className="flex flex-wrap items-center gap-3 sm:col-span-3">
        <ToggleGroup
          label="Part"
          options={(['coDirector', 'director'] as const).map((value) => ({
            value,
            name: ROLE_NAMES[value],
          }))}
          isOn={(role) => role === wanted.role}
          onToggle={(role) => change({ role })}
        />
        <Button filled type="submit" className="ml-auto" disabled={isLoading}>
          Add
        </Button>
      </div>
    </form>
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
            <button
              type="button"
              className="ml-auto whitespace-nowrap text-quiet underline"
              onClick={() => void (isThis ? signOut() : end(id))}
            >
              sign out
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
