import { Link } from 'react-router';
import { usePlaceTheme } from '../theme/useTheme.tsx';

export function NotHere({ reason = 'There is nothing at this address.' }: { readonly reason?: string }) {
  usePlaceTheme('desk');
  return (
    <main className="p-10">
      <h1 className="text-3xl font-bold">Not here</h1>
      <p className="mt-3 text-quiet">{reason}</p>
      <Link to="/" className="mt-6 inline-block font-semibold text-carry underline">
        Back to the shelf
      </Link>
    </main>
  );
}
