import { useEffect } from 'react';
import { toast, Toaster as SonnerToaster } from 'sonner';
import { showToastsBy } from '../ui/toast.ts';

/** What is told for a moment, at the foot of the page. */
export function Toaster() {
  useEffect(() => showToastsBy(toast), []);
  return (
    <SonnerToaster
      position="bottom-center"
      toastOptions={{
        className: '!bg-ink !text-ground !border-0 !font-text !text-base',
        duration: 2600,
      }}
    />
  );
}
