import type { ReactNode } from 'react';
import { useGetSessionQuery } from '../store/peopleApi.ts';
import { SignIn } from './SignIn.tsx';

/** Nobody sees a piece before it is known who asks. Where the server does not answer, the page goes on with what it has. */
export function SessionGate({ children }: { readonly children: ReactNode }) {
  const { data, error } = useGetSessionQuery();
  if (data && !data.signedIn) return <SignIn session={data} />;
  if (!data && !error) return null;
  return children;
}
