import type { Page } from '@playwright/test';

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

    const isShown = (element: Element): boolean =>
      element.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true });
    const clips = (element: Element) => {
      const { overflowX, overflowY } = getComputedStyle(element);
      return { x: overflowX !== 'visible', y: overflowY === 'hidden' || overflowY === 'clip' };
    };
    const isScroller = (element: Element) => /auto|scroll/.test(getComputedStyle(element).overflowY);

    interface Seen {
      readonly text: string;
      readonly rect: DOMRect;
      readonly element: Element;
      readonly layer: Element | null;
    }
    const texts: Seen[] = [];
    const walker = document.createTreeWalker(scope, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const text = node.textContent?.trim() ?? '';
      const element = node.parentElement;
      if (!text || !element || !isShown(element)) continue;
      if (element.closest('[data-testid="overview"], .sr-only, title, style, [data-sonner-toaster]'))
        continue;
      // Signs of the music font reach far above and below what is seen of them.
      if (getComputedStyle(element).fontFamily.includes('Anchorbeat Music')) continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      for (const rect of range.getClientRects()) {
        if (rect.width < 2 || rect.height < 2) continue;
        let visible: { left: number; right: number; top: number; bottom: number } | null = rect;
        let isCut = false;
        for (let above: Element | null = element; above && visible; above = above.parentElement) {
          if (above.tagName === 'svg' && getComputedStyle(above).overflow !== 'visible') {
            // The podium's line goes on past the edge of the screen.
            const box = above.getBoundingClientRect();
            if (rect.right > box.right + 1 || rect.left < box.left - 1) {
              if (above.closest('[role="listbox"]')) isCut = true;
              else visible = null;
            }
            continue;
          }
          const clip = clips(above);
          if (!clip.x && !clip.y) continue;
          const box = above.getBoundingClientRect();
          if (isScroller(above)) {
            if (rect.bottom > box.bottom + 1 || rect.top < box.top - 1) visible = null;
            if (
              visible &&
              visible.right > box.right + 2 &&
              getComputedStyle(above).textOverflow !== 'ellipsis'
            )
              isCut = true;
            continue;
          }
          const isEllipsis = getComputedStyle(above).textOverflow === 'ellipsis';
          const { left, right, top, bottom } = visible;
          const isOutside =
            left >= box.right - 1 || right <= box.left + 1 || top >= box.bottom - 1 || bottom <= box.top + 1;
          const slack = rect.height * 0.3;
          if (isOutside) visible = null;
          else if (!isEllipsis && clip.x && (right > box.right + 3 || left < box.left - 3)) isCut = true;
          else if (!isEllipsis && clip.y && (bottom > box.bottom + slack || top < box.top - slack))
            isCut = true;
          if (visible && isEllipsis) {
            visible = {
              ...box.toJSON(),
              top: rect.top,
              bottom: rect.bottom,
              left: Math.max(rect.left, box.left),
              right: Math.min(rect.right, box.right),
            } as typeof visible;
          }
        }
        if (!visible || rect.top > innerHeight || rect.bottom < 0) continue;
        if (isCut || visible.right > innerWidth + 2 || visible.left < -2)
          faults.push(`"${text.slice(0, 30)}" is cut off`);
        // Figures as large as the beat fill less than half of their line.
        const inset = parseFloat(getComputedStyle(element).fontSize) > 64 ? 0.25 : 0;
        const height = visible.bottom - visible.top;
        texts.push({
          text,
          rect: DOMRect.fromRect({
            x: visible.left,
            y: visible.top + inset * height,
            width: visible.right - visible.left,
            height: height * (1 - 2 * inset),
          }),
          element,
          layer: element.closest('[data-layer]'),
        });
      }
    }
    for (const [index, a] of texts.entries()) {
      for (const b of texts.slice(index + 1)) {
        if (a.layer !== b.layer || a.element === b.element) continue;
        const across = Math.min(a.rect.right, b.rect.right) - Math.max(a.rect.left, b.rect.left);
        const down = Math.min(a.rect.bottom, b.rect.bottom) - Math.max(a.rect.top, b.rect.top);
        const least = Math.min(a.rect.height, b.rect.height);
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
