import { Button } from '../ui/Button.tsx';

interface ProgressProps {
  readonly label: string;
  readonly share: number;
  readonly onCancel: () => void;
}

/** How far some work has come, and a way to call it off. */
export function Progress({ label, share, onCancel }: ProgressProps) {
  return (
    <div className="flex items-center gap-4">
      <p className="min-w-0 flex-1">
        {label}
        <progress value={share} max={1} className="mt-1 block h-2.5 w-full accent-[var(--carry)]" />
      </p>
      <Button onClick={onCancel}>Leave it</Button>
    </div>
  );
}
