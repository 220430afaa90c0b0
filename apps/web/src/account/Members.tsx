import type { EnsembleResponse, MemberResponse, MemberRole } from '@anchorbeat/contract';
import { useState, type FormEvent } from 'react';
import { problemText } from '../store/api.ts';
import {
  useAddMemberMutation,
  useDirects,
  useGetSessionQuery,
  useListMembersQuery,
  useRemoveMemberMutation,
  useSetPartMutation,
} from '../store/peopleApi.ts';
import { Button } from '../ui/Button.tsx';
import { RowAct } from '../ui/RowAct.tsx';
import { TextField } from '../ui/TextField.tsx';
import { toast } from '../ui/toast.ts';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';

const ROLE_NAMES = { director: 'director', coDirector: 'co-director' } as const;
const EMPTY = { name: '', displayName: '', password: '', role: 'coDirector' as MemberRole };

/** Who leads an ensemble; who directs it changes that. */
export function Members({ ensemble }: { readonly ensemble: EnsembleResponse }) {
  const { data: members = [] } = useListMembersQuery(ensemble.id);
  const directs = useDirects(ensemble.id);
  const [problem, setProblem] = useState('');
  const parts = useParts(ensemble, setProblem);
  return (
    <>
      <ul className="mt-5 grid gap-1" aria-label="Who leads">
        {members.map((member) => (
          <li
            key={member.accountId}
            className="flex flex-wrap items-baseline gap-x-4 border-b border-faint py-1.5"
          >
            <span className="mr-auto">
              <b>{member.displayName}</b>{' '}
              <span className="text-quiet">
                {member.name} · {ROLE_NAMES[member.role]}
              </span>
            </span>
            {directs && (
              <>
                <RowAct
                  words={`make ${ROLE_NAMES[otherRole(member)]}`}
                  onPress={() => parts.exchange(member)}
                />
                <RowAct
                  words={parts.isOwn(member) ? 'leave' : 'take out'}
                  onPress={() => parts.takeOut(member)}
                />
              </>
            )}
          </li>
        ))}
      </ul>
      {directs && (
        <>
          <NewMember ensembleId={ensemble.id} onProblem={setProblem} />
          <p role="alert" className="mt-2 min-h-6 text-problem">
            {problem}
          </p>
        </>
      )}
    </>
  );
}

const otherRole = ({ role }: MemberResponse): MemberRole => (role === 'director' ? 'coDirector' : 'director');

/** What a director does to who leads an ensemble; somebody who was taken out can be put back, and nobody leaves by a slip. */
function useParts(
  { id: ensembleId, name: ensemble }: EnsembleResponse,
  onProblem: (problem: string) => void,
) {
  const { data: session } = useGetSessionQuery();
  const [remove] = useRemoveMemberMutation();
  const [setPart] = useSetPartMutation();
  const told = (work: Promise<unknown>, says: () => void = () => undefined) => {
    onProblem('');
    void work.then(says, (error: unknown) => onProblem(problemText(error)));
  };
  const put = ({ accountId, role }: MemberResponse) =>
    told(setPart({ ensembleId, accountId, role }).unwrap());
  const out = ({ accountId }: MemberResponse) => remove({ ensembleId, accountId }).unwrap();
  const isOwn = ({ accountId }: MemberResponse) => accountId === session?.signedIn?.accountId;
  return {
    isOwn,
    exchange: (member: MemberResponse) => put({ ...member, role: otherRole(member) }),
    takeOut: (member: MemberResponse) => {
      if (isOwn(member))
        toast(`You would see nothing of ${ensemble} any more`, {
          duration: 8000,
          action: { label: 'Leave', onClick: () => told(out(member)) },
        });
      else
        told(out(member), () =>
          toast(`${member.displayName} leads ${ensemble} no more`, {
            duration: 8000,
            action: { label: 'Put back', onClick: () => put(member) },
          }),
        );
    },
  };
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
