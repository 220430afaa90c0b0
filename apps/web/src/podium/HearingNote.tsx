import { Kept, oneOf, useKept } from '../kept/kept.ts';
import { Button } from '../ui/Button.tsx';

const keptNote = new Kept('anchorbeat.hearingNote', oneOf(['unread', 'read']));

/** Said once in this browser, before clicks are first heard in headphones. It stands in nobody's way. */
export function HearingNote() {
  const [state, setState] = useKept(keptNote);
  if (state === 'read') return null;
  return (
    <aside
      aria-label="Before you use headphones"
      className="absolute right-8 bottom-20 z-10 w-[30rem] max-w-[80vw] rounded-2xl border-2 border-entry bg-raised p-5 text-[1.4rem] leading-snug shadow-xl"
    >
      <p>
        <b>With headphones: start quiet.</b> Clicks are short and sharp; the program cannot know how loud they
        are at the ear. Rest your ears between runs, and follow the rules for hearing where you work.
      </p>
      <Button className="mt-3" onClick={() => setState('read')}>
        Understood
      </Button>
    </aside>
  );
}
