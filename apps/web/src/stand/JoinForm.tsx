import { CODE_LENGTH, isCode, typedCode } from '@anchorbeat/core';
import type { JoinResponse } from '@anchorbeat/contract';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { AtHome } from './AtHome.tsx';
import { join, type JoinedStand } from './join.ts';

interface JoinFormProps {
  readonly code: string;
  readonly onJoined: (stand: JoinedStand) => void;
  readonly onPractise: () => void;
}

/** From a code to a stand: the code, then the section. */
export function JoinForm({ code: given, onJoined, onPractise }: JoinFormProps) {
  const [code, setCode] = useState(given);
  const [opened, setOpened] = useState<JoinResponse | null>(null);
  const [failure, setFailure] = useState('');
  const [isAsking, setAsking] = useState(false);
  const ask = async (typed: string) => {
    setFailure('');
    setAsking(true);
    try {
      setOpened(await join(typedCode(typed)));
    } catch (error) {
      setFailure((error as Error).message);
    }
    setAsking(false);
  };
  const asked = useRef(false);
  useEffect(() => {
    if (asked.current || !isCode(typedCode(given))) return;
    asked.current = true;
    void ask(given);
  });
  const enter = async (section: string, name: string) => {
    setFailure('');
    try {
      const { ensembleName, sections, noteNames, stand } = await join(typedCode(code), section, name);
      if (stand)
        onJoined({
          code: typedCode(code),
          token: stand.token,
          section,
          name,
          ensembleName,
          sections,
          noteNames,
        });
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  return (
    <main className="grid min-h-dvh content-start gap-6 bg-ground p-6 pt-[8dvh] text-ink sm:justify-center">
      {opened ? (
        <SectionForm opened={opened} onEnter={(section, name) => void enter(section, name)} />
      ) : (
        <CodeForm
          code={code}
          isAsking={isAsking}
          onCode={setCode}
          onEnter={(event) => {
            event.preventDefault();
            void ask(code);
          }}
        />
      )}
      {failure && (
        <p role="alert" className="max-w-[32rem] text-lg text-problem">
          {failure}
        </p>
      )}
      {!opened && <AtHome onPractise={onPractise} />}
    </main>
  );
}

interface CodeFormProps {
  readonly code: string;
  readonly isAsking: boolean;
  readonly onCode: (code: string) => void;
  readonly onEnter: (event: FormEvent) => void;
}

function CodeForm({ code, isAsking, onCode, onEnter }: CodeFormProps) {
  return (
    <form className="grid gap-6" onSubmit={onEnter}>
      <h1 className="text-4xl font-extrabold">Join the rehearsal</h1>
      <label className="grid gap-2 text-lg text-quiet">
        The code your director shows
        <input
          className="numeral w-full max-w-[22rem] rounded-xl border-2 border-quiet bg-raised px-4 py-3 text-4xl font-bold tracking-[0.18em] text-ink uppercase"
          value={code}
          autoFocus
          autoCapitalize="characters"
          autoComplete="off"
          spellCheck={false}
          maxLength={CODE_LENGTH + 3}
          onChange={({ target }) => onCode(target.value)}
        />
      </label>
      <button
        type="submit"
        disabled={!isCode(typedCode(code)) || isAsking}
        className="max-w-[22rem] rounded-2xl bg-entry px-8 py-4 text-xl font-bold text-ground disabled:opacity-45"
      >
        Join
      </button>
    </form>
  );
}

interface SectionFormProps {
  readonly opened: JoinResponse;
  readonly onEnter: (section: string, name: string) => void;
}

function SectionForm({ opened, onEnter }: SectionFormProps) {
  const [name, setName] = useState('');
  const [other, setOther] = useState('');
  return (
    <div className="grid max-w-[34rem] gap-5">
      <div>
        <p className="text-lg text-quiet">{opened.ensembleName}</p>
        <h1 className="text-4xl font-extrabold">What do you play?</h1>
      </div>
      <div className="grid grid-cols-2 gap-3">
        {opened.sections.map((section) => (
          <button
            key={section}
            type="button"
            className="truncate rounded-2xl border-2 border-ink px-4 py-4 text-xl font-bold hover:bg-selection"
            onClick={() => onEnter(section, name)}
          >
            {section}
          </button>
        ))}
      </div>
      <form
        className="flex flex-wrap gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (other.trim() !== '') onEnter(other.trim(), name);
        }}
      >
        <input
          aria-label="Another section"
          placeholder="another section"
          maxLength={60}
          className="min-w-0 flex-1 rounded-xl border-2 border-faint bg-raised px-3 py-2 text-lg"
          value={other}
          onChange={({ target }) => setOther(target.value)}
        />
        <button
          type="submit"
          disabled={other.trim() === ''}
          className="rounded-xl border-2 border-ink px-4 font-semibold disabled:opacity-45"
        >
          Join
        </button>
      </form>
      <label className="grid gap-1 text-quiet">
        Your name, if the director should see it
        <input
          className="rounded-xl border-2 border-faint bg-raised px-3 py-2 text-lg text-ink"
          maxLength={80}
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
      </label>
    </div>
  );
}
