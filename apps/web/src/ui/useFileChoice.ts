import { useRef, type ChangeEvent, type RefObject } from 'react';

interface FileChoice {
  /** For an input of the page that nobody need see. */
  readonly input: {
    readonly ref: RefObject<HTMLInputElement | null>;
    readonly type: 'file';
    readonly onChange: (event: ChangeEvent<HTMLInputElement>) => void;
  };
  /** Asks for a file in the browser's own way. */
  readonly open: () => void;
}

/** A file chosen in the browser's own way; the same one may be chosen once more. */
export function useFileChoice(onFile: (file: File) => void): FileChoice {
  const ref = useRef<HTMLInputElement>(null);
  return {
    input: {
      ref,
      type: 'file',
      onChange: ({ target }) => {
        const [file] = target.files ?? [];
        target.value = '';
        if (file) onFile(file);
      },
    },
    open: () => ref.current?.click(),
  };
}
