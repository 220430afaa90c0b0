import type { RoomResponse } from '@anchorbeat/contract';
import { create } from 'qrcode';
import { useMemo } from 'react';

/** How a phone comes in: a picture for its camera, an address to type, and the code, large enough for the last row. */
export function JoinCard({ response }: { readonly response: RoomResponse }) {
  const [address = '', ...others] = response.addresses;
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
          . For phones, make an account (shelf, people), then start with <code>npm start -- --lan</code>.
        </p>
      )}
    </div>
  );
}

const QUIET_MODULES = 4;

function QrCode({ text }: { readonly text: string }) {
  const { size, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: 'M' });
    const dark: string[] = [];
    for (let row = 0; row < modules.size; row++)
      for (let column = 0; column < modules.size; column++)
        if (modules.get(row, column)) dark.push(`M${column} ${row}h1v1h-1z`);
    return { size: modules.size, path: dark.join('') };
  }, [text]);
  const whole = size + 2 * QUIET_MODULES;
  return (
    <svg
      role="img"
      aria-label={`A picture for a phone's camera: ${text}`}
      viewBox={`${-QUIET_MODULES} ${-QUIET_MODULES} ${whole} ${whole}`}
      className="w-56 rounded-lg"
      shapeRendering="crispEdges"
    >
      <rect x={-QUIET_MODULES} y={-QUIET_MODULES} width={whole} height={whole} fill="#ffffff" />
      <path d={path} fill="#000000" />
    </svg>
  );
}
