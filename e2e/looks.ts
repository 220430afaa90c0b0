import type { Page } from '@playwright/test';

interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** A line of text as far as it is seen. */
interface Seen extends Box {
  readonly text: string;
  readonly element: Element;
  readonly layer: Element | null;
}

/**
 * What is wrong with how a page looks at this size: it scrolls sideways, text is cut off or lies over other text, or, where a
 * finger presses, something to press is smaller than 44 px. Text that ends in "…" by design is not cut off.
 */
export function faultsOf(page: Page, isTouch: boolean): Promise<string[]> {
  return page.evaluate(async (touch) => {
    const drawn = () => new Promise((resolve) => requestAnimationFrame(resolve));
    for (let frame = 0; frame < 3; frame++) await drawn();
    await Promise.all(document.getAnimations().map(({ finished }) => finished.catch(() => undefined)));
    const faults: string[] = [];
    const { innerWidth, innerHeight } = window;
    const scope = document.querySelector('[role="dialog"]') ?? document.body;
    if (document.documentElement.scrollWidth > innerWidth + 1)
      faults.push(`scrolls sideways to ${document.documentElement.scrollWidth}`);

    // Much of a page stands in the same few boxes: what is asked of a box is asked once.
    const once = <T>(ask: (element: Element) => T): ((element: Element) => T) => {
      const known = new Map<Element, T>();
      return (element) => {
        if (!known.has(element)) known.set(element, ask(element));
        return known.get(element) as T;
      };
    };
    const isShown = once((element) =>
      element.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true }),
    );
    const boxOf = once((element): Box => {
      const { left, right, top, bottom } = element.getBoundingClientRect();
      return { left, right, top, bottom };
    });
    const styleOf = once((element) => {
      const { overflow, overflowX, overflowY, textOverflow, fontFamily, fontSize } =
        getComputedStyle(element);
      return {
        clipsX: overflowX !== 'visible',
        clipsY: overflowY === 'hidden' || overflowY === 'clip',
        isScroller: /auto|scroll/.test(overflowY),
        isEllipsis: textOverflow === 'ellipsis',
        isClippedDrawing: element.tagName === 'svg' && overflow !== 'visible',
        // Signs of the music font reach far above and below what is seen of them.
        isMusic: fontFamily.includes('Anchorbeat Music'),
        fontSize: parseFloat(fontSize),
      };
    });
    const isLeftOut = once((element) =>
      Boolean(element.closest('[data-testid="overview"], .sr-only, title, style, [data-sonner-toaster]')),
    );
    const texts: Seen[] = [];
    // One for all: the page keeps every range it was ever given in step with whatever changes in it.
    const range = document.createRange();
    const walker = document.createTreeWalker(scope, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const text = node.textContent?.trim() ?? '';
      const element = node.parentElement;
      if (!text || !element || !isShown(element) || isLeftOut(element)) continue;
      const { isMusic, fontSize } = styleOf(element);
      if (isMusic) continue;
      range.selectNodeContents(node);
      for (const { left, right, top, bottom } of range.getClientRects()) {
        if (right - left < 2 || bottom - top < 2 || top > innerHeight || bottom < 0) continue;
        let visible: Box | null = { left, right, top, bottom };
        let isCut = false;
        for (let above: Element | null = element; above && visible; above = above.parentElement) {
          const { isClippedDrawing, clipsX, clipsY, isScroller, isEllipsis } = styleOf(above);
          if (!isClippedDrawing && !clipsX && !clipsY) continue;
          const box = boxOf(above);
          if (isClippedDrawing) {
            // The podium's line goes on past the edge of the screen.
            if (right > box.right + 1 || left < box.left - 1) {
              if (above.closest('[role="listbox"]')) isCut = true;
              else visible = null;
            }
            if (bottom > box.bottom + (bottom - top) * 0.3 || top < box.top - (bottom - top) * 0.3)
              isCut = true;
            continue;
          }
          if (isScroller) {
            if (bottom > box.bottom + 1 || top < box.top - 1) visible = null;
            else if (visible.right > box.right + 2 && !isEllipsis) isCut = true;
            continue;
          }
          const isOutside =
            visible.left >= box.right - 1 ||
            visible.right <= box.left + 1 ||
            visible.top >= box.bottom - 1 ||
            visible.bottom <= box.top + 1;
          const slack = (bottom - top) * 0.3;
          if (isOutside) visible = null;
          else if (isEllipsis)
            visible = { top, bottom, left: Math.max(left, box.left), right: Math.min(right, box.right) };
          else if (clipsX && (visible.right > box.right + 3 || visible.left < box.left - 3)) isCut = true;
          else if (clipsY && (visible.bottom > box.bottom + slack || visible.top < box.top - slack))
            isCut = true;
        }
        if (!visible) continue;
        if (isCut || visible.right > innerWidth + 2 || visible.left < -2)
          faults.push(`"${text.slice(0, 30)}" is cut off`);
        // Figures as large as the beat fill less than half of their line.
        const inset = (fontSize > 64 ? 0.25 : 0) * (visible.bottom - visible.top);
        const seen = { ...visible, top: visible.top + inset, bottom: visible.bottom - inset };
        texts.push({ text, ...seen, element, layer: element.closest('[data-layer]') });
      }
    }
    texts.sort((a, b) => a.top - b.top);
    for (const [index, a] of texts.entries()) {
      for (let next = index + 1; next < texts.length; next++) {
        const b = texts[next]!;
        // From here on all lie below it.
        if (b.top >= a.bottom) break;
        if (a.layer !== b.layer || a.element === b.element) continue;
        const across = Math.min(a.right, b.right) - Math.max(a.left, b.left);
        const down = Math.min(a.bottom, b.bottom) - b.top;
        const least = Math.min(a.bottom - a.top, b.bottom - b.top);
        if (across <= 3 || down <= least * 0.42) continue;
        const line = a.element.closest('text');
        if (!line || line !== b.element.closest('text'))
          faults.push(`"${a.text.slice(0, 24)}" lies over "${b.text.slice(0, 24)}"`);
      }
    }
    if (touch) {
      const targets = 'button, a[href], select, input, [role="radio"], [role="tab"], [role="slider"]';
      for (const target of scope.querySelectorAll(targets)) {
        if (!isShown(target) || target.closest('[aria-hidden="true"], p, [data-sonner-toaster]')) continue;
        const own = target.getBoundingClientRect();
        const label = target.closest('label')?.getBoundingClientRect();
        const isChoice = /^(checkbox|radio|range|file)$/.test((target as HTMLInputElement).type ?? '');
        if (isChoice && !label) continue;
        const { width, height } = isChoice && label ? label : own;
        if (width < 1 || (width >= 43.5 && height >= 43.5)) continue;
        const name = target.getAttribute('aria-label') ?? target.textContent ?? '';
        faults.push(`"${name.slice(0, 30)}" is ${Math.round(width)}x${Math.round(height)} to press`);
      }
    }
    return [...new Set(faults)];
  }, isTouch);
}
