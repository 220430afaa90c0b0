import { useEffect, type ReactNode } from 'react';
import { useGetSessionQuery } from '../store/peopleApi.ts';
import { closed } from '../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { SignIn } from './SignIn.tsx';

interface SessionGateProps {
  readonly children: ReactNode;
  /** Opens the page as if for the first time. */
  readonly onAnother?: () => void;
}

/** Nobody sees a piece before it is known who asks. Where the server does not answer, the page goes on with what it has. */
export function SessionGate({ children, onAnother = beginAnew }: SessionGateProps) {
  const { data, error } = useGetSessionQuery();
  const isAnother = useAppSelector(({ visitor }) => visitor.hasChanged);
  if (isAnother) return <Another onAnother={onAnother} />;
  if (data && !data.signedIn) return <SignIn session={data} />;
  if (!data && !error) return null;
  return children;
}

/** Who signs in where somebody else was before sees nothing of what is theirs; what of it waits is sent when they are back. */
function Another({ onAnother }: Required<Pick<SessionGateProps, 'onAnother'>>) {
  const dispatch = useAppDispatch();
  useEffect(() => {
    dispatch(closed());
    onAnother();
  }, [dispatch, onAnother]);
  return null;
}

function beginAnew(): void {
  window.location.replace('/');
}
