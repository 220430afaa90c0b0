import type { BarSpan } from '@anchorbeat/core';
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';

const LONG_PRESS_MS = 500;
/** How far a finger may slip and still mean the bar under it. */
const SLIP_PX = 10;
/** Two fingers this much farther apart come a step nearer. */
const PINCH_STEP = 1.28;

export interface BarPointerWish {
  readonly selection: BarSpan;
  readonly onSelect: (barIndex: number, extend: boolean) => void;
  readonly onSelectSpan: (from: number, to: number) => void;
  /** Moves the selected bars before another one; null where they cannot be moved. */
  readonly onMove: ((before: number) => void) | null;
  readonly onZoom: (steps: number) => void;
  /** A finger that rests on a bar asks for all that can be done there. */
  readonly onLongPress: () => void;
}

type Doing = 'nothing' | 'selecting' | 'moving' | 'tapping' | 'drawing from' | 'drawing to';

/**
 * The pointer on the line. A mouse presses a bar and draws to another, or holds shift; the grip moves what is selected.
 * A finger taps a bar, draws the ends of the selection, rests for everything else, and two fingers come nearer.
 */
export function useBarPointer(wish: BarPointerWish) {
  const { selection, onSelect, onSelectSpan, onMove, onZoom, onLongPress } = wish;
  const doing = useRef<Doing>('nothing');
  const pressed = useRef({ x: 0, y: 0, timer: 0 });
  const fingers = useRef<Fingers>(new Map());
  const [dropBefore, setDropBefore] = useState<number | null>(null);
  const rest = () => {
    window.clearTimeout(pressed.current.timer);
    doing.current = 'nothing';
    setDropBefore(null);
  };
  const lift = (event: PointerEvent) => {
    fingers.current.delete(event.pointerId);
    rest();
  };
  const touch = (event: PointerEvent, under: Element | null) => {
    fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
    const handle = under?.getAttribute('data-handle');
    if (fingers.current.size > 1) return rest();
    if (handle === 'from' || handle === 'to') {
      doing.current = `drawing ${handle}`;
      (event.target as Element).setPointerCapture(event.pointerId);
      return undefined;
    }
    const bar = barOf(under);
    if (bar === null) return undefined;
    doing.current = 'tapping';
    const timer = window.setTimeout(() => {
      rest();
      onSelect(bar, false);
      onLongPress();
    }, LONG_PRESS_MS);
    pressed.current = { x: event.clientX, y: event.clientY, timer };
    return undefined;
  };
  const pinch = usePinch(fingers, onZoom);
  return {
    dropBefore,
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      if (event.button !== 0) return;
      const under = elementUnder(event);
      if (event.pointerType === 'touch') return void touch(event, under);
      if (onMove && under?.hasAttribute('data-grip')) {
        doing.current = 'moving';
        event.preventDefault();
        return;
      }
      const bar = barOf(under);
      if (bar === null) return;
      doing.current = 'selecting';
      onSelect(bar, event.shiftKey);
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      pinch(event);
      if (doing.current === 'nothing') return;
      const under = elementUnder(event);
      const bar = barOf(under);
      if (doing.current === 'tapping') {
        if (Math.hypot(event.clientX - pressed.current.x, event.clientY - pressed.current.y) > SLIP_PX)
          rest();
      } else if (bar === null) return;
      else if (doing.current === 'selecting') onSelect(bar, true);
      else if (doing.current === 'drawing from') onSelectSpan(bar, selection.from + selection.count - 1);
      else if (doing.current === 'drawing to') onSelectSpan(selection.from, bar);
      else setDropBefore(bar + (isInRightHalf(under as Element, event.clientX) ? 1 : 0));
    },
    onPointerUp: (event: PointerEvent<HTMLDivElement>) => {
      const bar = doing.current === 'tapping' ? barOf(elementUnder(event)) : null;
      if (bar !== null) onSelect(bar, event.shiftKey);
      if (doing.current === 'moving' && dropBefore !== null) onMove?.(dropBefore);
      lift(event);
    },
    onPointerCancel: lift,
  };
}

type Fingers = Map<number, { readonly x: number; readonly y: number }>;

/** Two fingers that part come nearer, step by step; they begin anew when one is lifted. */
function usePinch(fingers: RefObject<Fingers>, onZoom: (steps: number) => void) {
  const spread = useRef(0);
  return (event: PointerEvent) => {
    if (!fingers.current.has(event.pointerId)) return;
    fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
    const [a, b] = [...fingers.current.values()];
    if (!a || !b) {
      spread.current = 0;
      return;
    }
    const apart = Math.hypot(a.x - b.x, a.y - b.y);
    if (spread.current === 0) spread.current = apart;
    const steps = Math.trunc(Math.log(apart / spread.current) / Math.log(PINCH_STEP));
    if (steps === 0) return;
    spread.current = apart;
    onZoom(steps);
  };
}

/** The wheel with the control key, which is also what a touchpad's pinch is told as. */
export function useWheelZoom(element: RefObject<HTMLElement | null>, onZoom: (steps: number) => void): void {
  const latest = useRef(onZoom);
  useEffect(() => {
    latest.current = onZoom;
  });
  useEffect(() => {
    const target = element.current;
    if (!target) return undefined;
    let turned = 0;
    const turn = (event: WheelEvent) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      turned -= event.deltaY;
      const steps = Math.trunc(turned / WHEEL_STEP);
      if (steps === 0) return;
      turned -= steps * WHEEL_STEP;
      latest.current(steps);
    };
    target.addEventListener('wheel', turn, { passive: false });
    return () => target.removeEventListener('wheel', turn);
  }, [element]);
}

const WHEEL_STEP = 60;

function elementUnder({ clientX, clientY }: PointerEvent): Element | null {
  return document.elementsFromPoint(clientX, clientY).find((element) => isAnswering(element)) ?? null;
}

function isAnswering(element: Element): boolean {
  return ['data-handle', 'data-grip', 'data-bar'].some((name) => element.hasAttribute(name));
}

function barOf(element: Element | null): number | null {
  const bar = element?.getAttribute('data-bar');
  return bar === null || bar === undefined ? null : Number(bar);
}

function isInRightHalf(element: Element, clientX: number): boolean {
  const { left, width } = element.getBoundingClientRect();
  return clientX > left + width / 2;
}
