import { useState, type DragEvent } from 'react';

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
}

/** Words that are dragged about in the page are no file. */
const holdsFiles = ({ dataTransfer }: DragEvent) => dataTransfer.types.includes('Files');

/** A file that is dropped somewhere; of several the first. */
export function useFileDrop(onFile: (file: File) => void): FileDrop {
  const [isOver, setOver] = useState(false);
  const hold = (event: DragEvent) => {
    if (!holdsFiles(event)) return;
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
        if (!holdsFiles(event)) return;
        event.preventDefault();
        setOver(false);
        const [file] = event.dataTransfer.files;
        if (file) onFile(file);
      },
    },
  };
}
