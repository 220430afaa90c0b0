import type { RefObject } from 'react';
import { useSize } from './useSize.ts';

/** Inner width of an element in CSS pixels, kept up to date; 0 before it is measured. */
export function useWidth(ref: RefObject<HTMLElement | null>): number {
  return useSize(ref).widthPx;
}
