import { useState, type FormEvent } from 'react';
import { problemText } from '../store/api.ts';
import { useChangePasswordMutation } from '../store/peopleApi.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/TextField.tsx';
import { toast } from '../ui/toast.ts';

const EMPTY = { password: '', newPassword: '' };

/** Another password for oneself: the first one was somebody else's choice. */
export function PasswordChange() {
  const [isOpen, setOpen] = useState(false);
  return (
    <section className="mt-5" aria-label="Your password">
      <h3 className="font-display text-lg font-bold">Your password</h3>
      {isOpen ? (
        <PasswordForm onDone={() => setOpen(false)} />
      ) : (
        <button type="button" className="mt-1 text-quiet underline" onClick={() => setOpen(true)}>
          change it
        </button>
      )}
    </section>
  );
}

function PasswordForm({ onDone }: { readonly onDone: () => void }) {
  const [change, { isLoading }] = useChangePasswordMutation();
  const [typed, setTyped] = useState(EMPTY);
  const [problem, setProblem] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setProblem('');
    change(typed)
      .unwrap()
      .then(() => {
        toast('Your password was changed; everywhere else you are signed out');
        onDone();
      })
      .catch((error: unknown) => setProblem(problemText(error)));
  };
  return (
    <form className="mt-2 grid items-end gap-3 sm:grid-cols-[1fr_1fr_auto]" onSubmit={submit}>
      <TextField
        labelStands="above"
        label="The one you have now"
        type="password"
        autoComplete="current-password"
        autoFocus
        value={typed.password}
        onText={(password) => setTyped({ ...typed, password })}
      />
      <TextField
        labelStands="above"
        label="The new one, ten characters or more"
        type="password"
        autoComplete="new-password"
        value={typed.newPassword}
        onText={(newPassword) => setTyped({ ...typed, newPassword })}
      />
      <Button filled type="submit" disabled={isLoading || typed.password === '' || typed.newPassword === ''}>
        Change it
      </Button>
      <p role="alert" className="min-h-6 text-problem sm:col-span-3">
        {problem}
      </p>
    </form>
  );
}
