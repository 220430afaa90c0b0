import { useSyncExternalStore } from 'react';
import { hearing } from '../sound/hearing.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';

/** Said once in a browser, before its first sound, which waits for the answer. */
export function HearingNote() {
  const isAsked = useSyncExternalStore(hearing.subscribe, hearing.isAsked);
  if (!isAsked) return null;
  return (
    <DialogShell
      title="With headphones: start quiet"
      description="Clicks are short and sharp; the program cannot know how loud they are at the ear. Rest your ears between runs, and follow the rules for hearing where you work."
      onClose={() => hearing.answer(false)}
    >
      <div className="mt-6 flex flex-wrap gap-3">
        <Button filled autoFocus onClick={() => hearing.answer(true)}>
          Understood, go on
        </Button>
        <Button onClick={() => hearing.answer(false)}>Not now</Button>
      </div>
    </DialogShell>
  );
}
