import { useRef, useState, type ChangeEvent, type DragEvent, type RefObject } from 'react';

interface FileDrop {
  /** A file is held over it. */
  readonly isOver: boolean;
  /** For the element on which files are let go. */
  readonly area: {
    readonly onDragEnter: (event: DragEvent) => void;
    readonly onDragOver: (event: DragEvent) => void;
    readonly onDragLeave: (event: DragEvent) => void;
    readonly onDrop: (event: DragEvent) => void;
  };
  readonly input: {
    readonly ref: RefObject<HTMLInputElement | null>;
    readonly onChange: (event: ChangeEvent<HTMLInputElement>) => void;
  };
  /** Asks for a file in the browser's own way. */
  readonly open: () => void;
}

/** A file that is dropped somewhere, or chosen in the browser's own way; of several the first. */
export function useFileDrop(onFile: (file: File) => void): FileDrop {
  const [isOver, setOver] = useState(false);
  const ref = useRef<HTMLInputElement>(null);
  const take = (files: FileList | null) => {
    const [file] = files ?? [];
    if (file) onFile(file);
  };
  const hold = (event: DragEvent) => {
    // Words that are dragged about in the page are no file.
    if (!event.dataTransfer.types.includes('Files')) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = 'copy';
    setOver(true);
  };
  return {
    isOver,
    area: {
      onDragEnter: hold,
      onDragOver: hold,
      onDragLeave: ({ currentTarget, relatedTarget }) => {
        if (!(relatedTarget instanceof Node && currentTarget.contains(relatedTarget))) setOver(false);
      },
      onDrop: (event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files);
      },
    },
    input: {
      ref,
      onChange: ({ target }) => {
        take(target.files);
        // The same file may be chosen once more.
        target.value = '';
      },
    },
    open: () => ref.current?.click(),
  };
}
