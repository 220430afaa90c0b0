import { Dialog } from 'radix-ui';
import type { KeyboardEventHandler, ReactNode } from 'react';

const WIDTHS = {
  narrow: 'w-[34rem]',
  middle: 'w-[44rem]',
  wide: 'w-[56rem]',
  widest: 'w-[74rem]',
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
  readonly children: ReactNode;
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
  children,
}: DialogShellProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose?.()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/45" />
        <Dialog.Content
          onKeyDown={onKeyDown}
          onKeyDownCapture={onKeyDownCapture}
          onEscapeKeyDown={(event) => !closesByEscape && event.preventDefault()}
          className={`fixed top-8 left-1/2 max-h-[calc(100vh-4rem)] max-w-[96vw] -translate-x-1/2 overflow-y-auto rounded-2xl bg-raised p-7 shadow-xl ${WIDTHS[width]}`}
        >
          <div className="flex flex-wrap items-start gap-4">
            <div className="min-w-0">
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
