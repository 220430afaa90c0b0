import { Component, type ErrorInfo, type ReactNode } from 'react';
import { Button } from '../ui/Button.tsx';
import { reportError } from './reportError.ts';

interface ErrorBoundaryProps {
  /** Another place begins anew. */
  readonly place: string;
  readonly children: ReactNode;
}

interface ErrorBoundaryState {
  readonly error: Error | null;
  readonly place: string;
}

/** A screen that met an error says so, keeps the work, and offers the way back; the other places go on. */
export class ErrorBoundary extends Component<ErrorBoundaryProps, ErrorBoundaryState> {
  override state: ErrorBoundaryState = { error: null, place: this.props.place };

  static getDerivedStateFromError(error: unknown): Pick<ErrorBoundaryState, 'error'> {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  static getDerivedStateFromProps(
    { place }: ErrorBoundaryProps,
    state: ErrorBoundaryState,
  ): ErrorBoundaryState | null {
    return place === state.place ? null : { error: null, place };
  }

  override componentDidCatch(error: Error, { componentStack }: ErrorInfo): void {
    reportError(error, componentStack ?? '');
  }

  override render(): ReactNode {
    const { error } = this.state;
    return error ? (
      <Failed error={error} onAgain={() => this.setState({ error: null })} />
    ) : (
      this.props.children
    );
  }
}

function Failed({ error, onAgain }: { readonly error: Error; readonly onAgain: () => void }) {
  return (
    <main role="alert" className="h-full overflow-y-auto p-10">
      <h1 className="text-3xl font-bold">This screen met an error</h1>
      <p className="mt-3 max-w-2xl text-lg">
        Your work is not touched by it: what was saved is on the server, what was not yet is kept in this
        window. What happened was noted in the server’s log.
      </p>
      <p className="mt-3 max-w-2xl text-quiet">{error.message}</p>
      <div className="mt-6 flex gap-3">
        <Button filled onClick={onAgain}>
          Try this screen again
        </Button>
        <Button onClick={() => window.location.assign('/')}>Back to the shelf</Button>
      </div>
    </main>
  );
}
