/**
 * Keys are shown where there are any: on a device meant for fingers only once one was pressed outside a text. Set on the
 * page's root element, where the style sheet reads it.
 */
export function watchKeyboard(root: HTMLElement): void {
  root.setAttribute('data-keys', matchMedia('(pointer: coarse)').matches ? 'hidden' : 'shown');
  window.addEventListener('keydown', ({ target, isTrusted }) => {
    const isTyping = target instanceof Element && target.closest('input, textarea, [contenteditable]');
    if (isTrusted && !isTyping) root.setAttribute('data-keys', 'shown');
  });
}
