import { useState, type KeyboardEvent } from 'react';
import { useInputs } from '../input/Inputs.tsx';
import { useKept } from '../kept/kept.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { TextField } from '../ui/TextField.tsx';
import { shownKey, type Act } from './act.ts';
import { useActRegistry } from './ActsContext.tsx';
import { foundActs } from './foundActs.ts';
import { keptKeys, keyOf, PLAIN_KEYS, withKey, type KeySettings } from './ownKeys.ts';
import { pressOfMaybe } from './pressOf.ts';

const MIDI_WORDS = {
  off: 'Connect pedals and pads',
  listening: 'Pedals and pads connected',
  refused: 'The browser refused MIDI: try again',
} as const;

/** Keys that change others, or write nothing by themselves. */
const NO_KEYS =
  /^(Shift|Control|Alt|AltGraph|Meta|Fn|CapsLock|NumLock|ScrollLock|Dead|Process|Unidentified)$/;

/** Everything that can be done here: found by its words, done by a press, each with its key, which can be exchanged or taken away. */
export function KeySheet({ onClose }: { readonly onClose: () => void }) {
  const registry = useActRegistry();
  const [acts] = useState(() => registry.all);
  const [keys, setKeys] = useKept(keptKeys);
  const [sought, setSought] = useState('');
  const [learning, setLearning] = useState<Act | null>(null);
  const offered = registry.offered(sought);
  const found = [...offered, ...foundActs(acts, sought)];
  const learn = (event: KeyboardEvent) => {
    if (!learning || NO_KEYS.test(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key !== 'Escape') setKeys({ ...keys, own: withKey(acts, keys.own, learning, taught(event)) });
    setLearning(null);
  };
  const act = (chosen: Act) => {
    onClose();
    // After the sheet has given the focus back to the screen.
    setTimeout(() => (registry.find(chosen.id) ?? chosen).does());
  };
  return (
    <DialogShell
      title="What can be done here"
      description="Press one to do it; press its key to give it another, delete for none. Pedals that type keys are taught the same way."
      width="widest"
      onClose={onClose}
      closesByEscape={learning === null}
      onKeyDownCapture={learn}
      aside={<SheetButtons keys={keys} onKeys={setKeys} onClose={onClose} />}
    >
      <form
        className="mt-4 max-w-96"
        onSubmit={(event) => {
          event.preventDefault();
          if (found[0] && sought !== '') act(found[0]);
        }}
      >
        <TextField
          label="Find"
          value={sought}
          onText={setSought}
          placeholder="loop, tempo, 7/8, 66 …"
          autoFocus
        />
      </form>
      <div className="mt-4 columns-[22rem] gap-8">
        {groupsOf(found).map(([group, members]) => (
          <section key={group} className="mb-4 break-inside-avoid" aria-label={group}>
            <h3 className="mb-1 font-display text-lg font-bold">{group}</h3>
            {members.map((member) => (
              <ActRow
                key={member.id}
                act={member}
                shown={learning === member ? 'press …' : shownKey(keyOf(member, keys.own))}
                isLearning={learning === member}
                onAct={() => act(member)}
                onLearn={() => setLearning(learning === member ? null : member)}
              />
            ))}
          </section>
        ))}
      </div>
      {found.length === 0 && <p className="mt-2 text-quiet">Nothing here is called so.</p>}
    </DialogShell>
  );
}

function taught({ key, nativeEvent }: KeyboardEvent): string {
  if (key === 'Delete' || key === 'Backspace') return '';
  return pressOfMaybe(nativeEvent)?.acts ?? key;
}

function groupsOf(acts: readonly Act[]): ReadonlyArray<readonly [string, readonly Act[]]> {
  const names = [...new Set(acts.map(({ group }) => group))];
  return names.map((name) => [name, acts.filter(({ group }) => group === name)]);
}

interface SheetButtonsProps {
  readonly keys: KeySettings;
  readonly onKeys: (keys: KeySettings) => void;
  readonly onClose: () => void;
}

function SheetButtons({ keys, onKeys, onClose }: SheetButtonsProps) {
  const { midi, connectMidi, hasScreenPedals, toggleScreenPedals } = useInputs();
  return (
    <>
      <label className="flex items-center gap-2 pointer-coarse:min-h-11">
        <input
          type="checkbox"
          checked={keys.singleKeys}
          onChange={({ target }) => onKeys({ ...keys, singleKeys: target.checked })}
          className="size-5"
        />
        Single letters act
      </label>
      {midi !== 'not here' && (
        <Button disabled={midi === 'listening'} onClick={connectMidi}>
          {MIDI_WORDS[midi]}
        </Button>
      )}
      <Button aria-pressed={hasScreenPedals} onClick={toggleScreenPedals}>
        Pedals on the screen
      </Button>
      <Button onClick={() => onKeys(PLAIN_KEYS)}>As they were</Button>
      <Button filled onClick={onClose}>
        Done
      </Button>
    </>
  );
}

interface ActRowProps {
  readonly act: Act;
  readonly shown: string;
  readonly isLearning: boolean;
  readonly onAct: () => void;
  readonly onLearn: () => void;
}

function ActRow({ act, shown, isLearning, onAct, onLearn }: ActRowProps) {
  return (
    <div
      className={`flex items-center gap-3 rounded-lg border-2 px-1 py-0.5 text-base ${isLearning ? 'border-entry' : 'border-transparent'}`}
    >
      <button
        type="button"
        aria-label={`${shown || 'no key'}, give another key: ${act.name}`}
        aria-pressed={isLearning}
        onClick={onLearn}
        className="min-w-14 rounded-lg border-2 border-quiet px-2 text-center font-text font-bold hover:border-ink"
      >
        {shown || '–'}
      </button>
      <button
        type="button"
        onClick={onAct}
        disabled={act.may === false}
        className="flex-1 rounded text-left first-letter:uppercase hover:underline disabled:opacity-50"
      >
        {act.name}
        {act.pedal && <span className="ml-2 text-[0.85rem] text-quiet">{act.pedal}</span>}
      </button>
    </div>
  );
}
