import type { EnsembleResponse, MemberResponse, MemberRole } from '@anchorbeat/contract';
import { useState, type FormEvent, type ReactNode } from 'react';
import { problemText } from '../store/api.ts';
import {
  useAddMemberMutation,
  useDirects,
  useGetSessionQuery,
  useListMembersQuery,
  useRemoveMemberMutation,
  useSetPartMutation,
} from '../store/peopleApi.ts';
import { AskFirst } from '../ui/AskFirst.tsx';
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
  const parts = useParts(ensemble.id, setProblem);
  const gone = parts.gone.filter((one) => members.every(({ accountId }) => accountId !== one.accountId));
  return (
    <>
      <ul className="mt-5 grid gap-1" aria-label="Who leads">
        {members.map((member) => (
          <MemberRow key={member.accountId} member={member}>
            {directs &&
              (parts.isOwn(member) ? (
                <OwnActs {...{ member, ensemble, parts }} />
              ) : (
                <MemberActs {...{ member, parts }} />
              ))}
          </MemberRow>
        ))}
        {gone.map((member) => (
          <MemberRow key={member.accountId} member={member}>
            <span className="text-quiet">leads no more</span>
            <RowAct words="put back" onPress={() => parts.put(member)} />
          </MemberRow>
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

interface MemberRowProps {
  readonly member: MemberResponse;
  readonly children: ReactNode;
}

function MemberRow({ member: { displayName, name, role }, children }: MemberRowProps) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-b border-faint py-1.5">
      <span>
        <b>{displayName}</b>{' '}
        <span className="text-quiet">
          {name} · {ROLE_NAMES[role]}
        </span>
      </span>
      <span className="ml-auto flex flex-wrap items-baseline gap-x-4">{children}</span>
    </li>
  );
}

type Parts = ReturnType<typeof useParts>;

interface MemberActsProps {
  readonly member: MemberResponse;
  readonly parts: Parts;
}

function MemberActs({ member, parts }: MemberActsProps) {
  const other = otherPart(member);
  return (
    <>
      <RowAct words={`make ${ROLE_NAMES[other.role]}`} onPress={() => parts.put(other)} />
      <RowAct words="take out" onPress={() => parts.takeOut(member)} />
    </>
  );
}

/** What one does to oneself one cannot take back. */
function OwnActs({ member, ensemble, parts }: MemberActsProps & { readonly ensemble: EnsembleResponse }) {
  return (
    <>
      {member.role === 'director' && (
        <AskFirst
          isSmall
          words="make co-director"
          question="You would direct no more."
          yes="Be co-director"
          no="Stay director"
          does={() => parts.put(otherPart(member))}
        />
      )}
      <AskFirst
        isSmall
        words="leave"
        question={`You would see nothing of ${ensemble.name} any more.`}
        yes="Leave"
        no="Stay"
        does={() => parts.takeOut(member)}
      />
    </>
  );
}

function otherPart(member: MemberResponse): MemberResponse {
  return { ...member, role: member.role === 'director' ? 'coDirector' : 'director' };
}

/** What a director does to who leads an ensemble; whoever was taken out meanwhile can be put back. */
function useParts(ensembleId: string, onProblem: (problem: string) => void) {
  const { data: session } = useGetSessionQuery();
  const [remove] = useRemoveMemberMutation();
  const [setPart] = useSetPartMutation();
  const [gone, setGone] = useState<readonly MemberResponse[]>([]);
  const told = (work: Promise<unknown>, says: () => void = () => undefined) => {
    onProblem('');
    void work.then(says, (error: unknown) => onProblem(problemText(error)));
  };
  return {
    gone,
    isOwn: ({ accountId }: MemberResponse) => accountId === session?.signedIn?.accountId,
    put: ({ accountId, role }: MemberResponse) => told(setPart({ ensembleId, accountId, role }).unwrap()),
    takeOut: (member: MemberResponse) => {
      const others = gone.filter(({ accountId }) => accountId !== member.accountId);
      told(remove({ ensembleId, accountId: member.accountId }).unwrap(), () => setGone([...others, member]));
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
