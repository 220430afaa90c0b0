import type { SessionResponse } from '@anchorbeat/contract';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { forgetLateAnswers } from '../kept/offline.ts';
import { problemText } from '../store/api.ts';
import { useOpenHereMutation, useSetUpMutation, useSignInMutation } from '../store/peopleApi.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/TextField.tsx';

/** How often it is looked for answers that came late. */
const LATE_ANSWERS_MS = 1000;

/** The door: one button at the machine itself while nobody has an account, else a name and a password. */
export function SignIn({ session }: { readonly session: SessionResponse }) {
  usePlaceTheme('desk');
  useNothingRead();
  const [isSettingUp, setSettingUp] = useState(false);
  return (
    <main className="grid h-full content-center justify-items-center overflow-y-auto bg-ground p-6 text-ink">
      <div className="w-full max-w-[26rem]">
        <DoorLine />
        <h1 className="mt-5 text-5xl font-extrabold">Anchorbeat</h1>
        {isSettingUp ? (
          <SetUp onBack={() => setSettingUp(false)} />
        ) : session.canOpenHere ? (
          <OpenHere onSetUp={() => setSettingUp(true)} />
        ) : (
          <PasswordForm />
        )}
        <p className="mt-8 border-t border-faint pt-4 text-quiet">
          Here for a rehearsal?{' '}
          <a className="font-semibold text-ink underline" href="/s">
            Join with its code
          </a>
        </p>
      </div>
    </main>
  );
}

/** While nobody is here, nothing that was read is kept in the browser: nor what was still on its way when somebody left. */
function useNothingRead(): void {
  useEffect(() => {
    const forget = () => void forgetLateAnswers();
    forget();
    const timer = setInterval(forget, LATE_ANSWERS_MS);
    return () => clearInterval(timer);
  }, []);
}

/** Four hops, the last one short, and the weight where everybody lands. */
function DoorLine() {
  return (
    <svg viewBox="0 -34 220 60" className="w-64" aria-hidden>
      <path
        d="M2 0Q30 -56 58 0M58 0Q86 -56 114 0M114 0Q142 -56 170 0M170 0Q191 -40 212 0"
        fill="var(--hop-fill)"
        stroke="var(--ink)"
        strokeWidth={2.2}
      />
      <path d="M2 0H212" stroke="var(--ink)" strokeWidth={1.6} />
      <path d="M212 3V11M205 11H219L216 22H208Z" fill="var(--seam)" stroke="var(--seam)" strokeWidth={1.6} />
    </svg>
  );
}

/** An answer that is awaited: what went wrong with the last one, and whether one is on its way. */
function useAsked<T>(ask: (values: T) => Promise<unknown>): readonly [string, boolean, (values: T) => void] {
  const [problem, setProblem] = useState('');
  const [isAsking, setAsking] = useState(false);
  const send = (values: T) => {
    setProblem('');
    setAsking(true);
    ask(values)
      .catch((error: unknown) => setProblem(problemText(error)))
      .finally(() => setAsking(false));
  };
  return [problem, isAsking, send];
}

function OpenHere({ onSetUp }: { readonly onSetUp: () => void }) {
  const [openHere] = useOpenHereMutation();
  const [problem, isAsking, open] = useAsked(() => openHere().unwrap());
  return (
    <>
      <p className="mt-3 text-lg text-quiet">
        Only this machine can open it so far, and nobody has an account: go straight in.
      </p>
      <Button
        filled
        autoFocus
        className="mt-6 w-full py-4 text-xl"
        disabled={isAsking}
        onClick={() => open(undefined)}
      >
        Open the shelf
      </Button>
      <Problem text={problem} />
      <p className="mt-2 text-quiet">
        To bring phones and co-directors in,{' '}
        <button type="button" className="font-semibold text-ink underline" onClick={onSetUp}>
          make the first account
        </button>
        .
      </p>
    </>
  );
}

function PasswordForm() {
  const [signIn] = useSignInMutation();
  const [problem, isAsking, send] = useAsked((values: { name: string; password: string }) =>
    signIn(values).unwrap(),
  );
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  return (
    <Form
      onSubmit={() => send({ name, password })}
      problem={problem}
      button={
        <Button
          filled
          type="submit"
          className="py-3 text-lg"
          disabled={isAsking || name === '' || password === ''}
        >
          Sign in
        </Button>
      }
    >
      <TextField
        labelStands="above"
        label="Name"
        value={name}
        onText={setName}
        autoComplete="username"
        autoFocus
      />
      <TextField
        labelStands="above"
        label="Password"
        type="password"
        value={password}
        onText={setPassword}
        autoComplete="current-password"
      />
      <p className="text-sm text-quiet">
        Forgotten? Whoever keeps this server gives you another password at its machine.
      </p>
    </Form>
  );
}

function SetUp({ onBack }: { readonly onBack: () => void }) {
  const [setUp] = useSetUpMutation();
  const [problem, isAsking, send] = useAsked(
    (values: { name: string; displayName: string; password: string }) => setUp(values).unwrap(),
  );
  const [name, setName] = useState('');
  const [displayName, setDisplayName] = useState('');
  const [password, setPassword] = useState('');
  return (
    <Form
      onSubmit={() => send({ name, displayName, password })}
      problem={problem}
      button={
        <div className="flex gap-3">
          <Button onClick={onBack}>Back</Button>
          <Button filled type="submit" className="flex-1" disabled={isAsking}>
            Make the first account
          </Button>
        </div>
      }
    >
      <p className="text-quiet">
        It directs every ensemble here. From then on this server asks for a password, and may be opened to the
        hall.
      </p>
      <TextField
        labelStands="above"
        label="What people call you"
        value={displayName}
        onText={setDisplayName}
        autoFocus
      />
      <TextField
        labelStands="above"
        label="Name to sign in with"
        value={name}
        onText={setName}
        autoComplete="username"
      />
      <TextField
        labelStands="above"
        label="Password, ten characters or more"
        type="password"
        value={password}
        onText={setPassword}
        autoComplete="new-password"
      />
    </Form>
  );
}

interface FormProps {
  readonly onSubmit: () => void;
  readonly problem: string;
  readonly button: ReactNode;
  readonly children: ReactNode;
}

function Form({ onSubmit, problem, button, children }: FormProps) {
  return (
    <form
      className="mt-5 grid gap-4"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        onSubmit();
      }}
    >
      {children}
      <Problem text={problem} />
      {button}
    </form>
  );
}

function Problem({ text }: { readonly text: string }) {
  return (
    <p role="alert" className="min-h-6 text-problem">
      {text}
    </p>
  );
}
