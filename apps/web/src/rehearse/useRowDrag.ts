import { useRef, useState, type PointerEvent } from 'react';

interface RowDrag {
  /** The row that is held, and the one it would come to stand at; null while none is. */
  readonly held: { readonly from: number; readonly to: number } | null;
  /** What the handle of a row listens to. */
  readonly handle: (index: number) => {
    readonly onPointerDown: (event: PointerEvent<HTMLElement>) => void;
    readonly onPointerMove: (event: PointerEvent<HTMLElement>) => void;
    readonly onPointerUp: () => void;
    readonly onPointerCancel: () => void;
  };
}

/** Rows of a list that are moved by their handles, with a finger or a pointer. Rows are the children of the nearest list. */
export function useRowDrag(onMoved: (from: number, to: number) => void): RowDrag {
  const [held, setHeld] = useState<RowDrag['held']>(null);
  const rows = useRef<readonly Element[]>([]);
  const handle = (index: number) => ({
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      rows.current = [...(event.currentTarget.closest('ol, ul')?.children ?? [])];
      setHeld({ from: index, to: index });
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      if (!held) return;
      const middles = rows.current.map((row) => {
        const { top, height } = row.getBoundingClientRect();
        return top + height / 2;
      });
      const above = middles.filter((middle, row) => row !== held.from && middle < event.clientY).length;
      if (above !== held.to) setHeld({ ...held, to: above });
    },
    onPointerUp: () => {
      if (held && held.to !== held.from) onMoved(held.from, held.to);
      setHeld(null);
    },
    onPointerCancel: () => setHeld(null),
  });
  return { held, handle };
}
