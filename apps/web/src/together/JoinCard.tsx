import type { RoomResponse } from '@anchorbeat/contract';
import { useGetSessionQuery } from '../store/peopleApi.ts';
import { QrCode } from '../ui/QrCode.tsx';

/** How a phone comes in: a picture for its camera, an address to type, and the code, large enough for the last row. */
export function JoinCard({ response }: { readonly response: RoomResponse }) {
  const [address = '', ...others] = response.addresses;
  const { data: session } = useGetSessionQuery();
  const hasAccount = session?.signedIn?.isLocal === false;
  const link = `${address}/s/${response.code}`;
  return (
    <div className="grid gap-3">
      <p className="numeral text-6xl leading-none font-extrabold tracking-[0.06em]" data-testid="join-code">
        {response.code}
      </p>
      {response.isOpenToHall ? (
        <>
          <QrCode text={link} />
          <p className="text-lg">
            <b>{address.replace(/^https?:\/\//, '')}/s</b>
          </p>
          {others.length > 1 && (
            <p className="text-sm text-quiet">
              or{' '}
              {others
                .slice(0, -1)
                .map((other) => other.replace(/^https?:\/\//, ''))
                .join(', ')}
            </p>
          )}
        </>
      ) : (
        <p className="text-quiet">
          Only this machine can come in so far: <b className="text-ink">{link.replace(/^https?:\/\//, '')}</b>
          . For phones, {hasAccount ? '' : 'make an account (shelf, people), then '}start with{' '}
          <code>npm start -- --lan</code>.
        </p>
      )}
    </div>
  );
}
