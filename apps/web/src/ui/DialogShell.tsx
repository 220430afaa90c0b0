import { Dialog } from 'radix-ui';
import type { KeyboardEventHandler, ReactNode } from 'react';

const WIDTHS = {
  narrow: 'sm:w-[34rem]',
  middle: 'sm:w-[44rem]',
  wide: 'sm:w-[56rem]',
  widest: 'sm:w-[74rem]',
} as const;

interface DialogShellProps {
  readonly title: ReactNode;
  readonly description: ReactNode;
  readonly width?: keyof typeof WIDTHS;
  /** Stands beside the title. */
  readonly aside?: ReactNode;
  /** Called when it is left by Escape or by a press beside it; without it the question must be answered. */
  readonly onClose?: () => void;
  readonly onKeyDown?: KeyboardEventHandler;
  /** Sees keys before anything in the dialog does. */
  readonly onKeyDownCapture?: KeyboardEventHandler;
  /** False keeps Escape from closing it, where Escape means something else at the moment. */
  readonly closesByEscape?: boolean;
  /** False where a key that is pressed at once must not press what comes first in it. */
  readonly focusesFirst?: boolean;
  readonly children: ReactNode;
}

/** The way back where there is no beside to press and no Escape: on phones. */
function CloseButton() {
  return (
    <Dialog.Close className="order-last rounded-lg border-2 border-ink px-3 font-semibold sm:hidden">
      Close
    </Dialog.Close>
  );
}

function focusDialog(event: Event): void {
  event.preventDefault();
  if (event.target instanceof HTMLElement) event.target.focus();
}

/** What is told for a moment stands beside the dialog, and may be pressed without leaving it. */
function isInToast(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('[data-sonner-toaster]') !== null;
}

/** A sheet over the screen with its title and what it is about. Keys of the screen rest while it is open. */
export function DialogShell({
  title,
  description,
  width = 'narrow',
  aside,
  onClose,
  onKeyDown,
  onKeyDownCapture,
  closesByEscape = true,
  focusesFirst = true,
  children,
}: DialogShellProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose?.()}>
      <Dialog.Portal>
        {/* Dialog.Overlay would keep the page from scrolling by what every element of it inherits: all would be styled anew. */}
        <div className="pointer-events-auto fixed inset-0 z-10 touch-none overflow-hidden overscroll-contain bg-black/45" />
        <Dialog.Content
          onKeyDown={onKeyDown}
          onKeyDownCapture={onKeyDownCapture}
          onOpenAutoFocus={(event) => !focusesFirst && focusDialog(event)}
          onInteractOutside={(event) => isInToast(event.target) && event.preventDefault()}
          onEscapeKeyDown={(event) => !closesByEscape && event.preventDefault()}
          className={`fixed inset-0 z-10 outline-none overflow-x-hidden overflow-y-auto overscroll-contain bg-raised p-4 shadow-xl sm:inset-auto sm:top-4 sm:left-1/2 sm:max-h-[calc(100vh-2rem)] sm:max-w-[96vw] sm:-translate-x-1/2 sm:rounded-2xl sm:p-7 ${WIDTHS[width]}`}
        >
          <div className="flex flex-wrap items-start gap-4">
            {onClose && <CloseButton />}
            <div className="min-w-0 flex-1 basis-40">
              <Dialog.Title className="text-2xl font-bold">{title}</Dialog.Title>
              <Dialog.Description className="mt-1 text-quiet">{description}</Dialog.Description>
            </div>
            {aside && <div className="ml-auto flex flex-wrap items-center gap-3">{aside}</div>}
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
