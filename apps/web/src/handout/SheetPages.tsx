import { PAPER_PALETTE, type SheetPage } from '@anchorbeat/sheets';
import { memo, useEffect, useRef, useState, type CSSProperties } from 'react';
import { createPortal, flushSync } from 'react-dom';
import { Shapes } from '../line/Shapes.tsx';
import { useNear } from '../ui/useNear.ts';

/** The paper's own colours, wherever it is shown. */
const ON_PAPER = Object.fromEntries(
  Object.entries(PAPER_PALETTE).map(([tone, colour]) => [`--${tone}`, colour]),
) as CSSProperties;

/** Every page as it will be printed, one under the other; the browser's own print gives the same pages. */
export function SheetPages({ pages }: { readonly pages: readonly SheetPage[] }) {
  const isPrinting = useIsPrinting();
  return (
    <>
      <ol aria-label="Pages" className="grid justify-items-center gap-5">
        {pages.map((page, index) => (
          <ShownPage key={index} page={page} name={`Page ${index + 1} of ${pages.length}`} />
        ))}
      </ol>
      {isPrinting && createPortal(<Printed pages={pages} />, document.body)}
    </>
  );
}

/** A page is drawn when it comes near to what is seen. */
function ShownPage({ page, name }: { readonly page: SheetPage; readonly name: string }) {
  const place = useRef<HTMLLIElement>(null);
  const isNear = useNear(place);
  return (
    <li
      ref={place}
      aria-label={name}
      className="w-full max-w-3xl bg-white shadow-md"
      style={{ aspectRatio: page.widthPt / page.heightPt }}
    >
      {isNear && <Page page={page} />}
    </li>
  );
}

const Page = memo(function Page({ page }: { readonly page: SheetPage }) {
  return (
    <svg
      viewBox={`0 0 ${page.widthPt} ${page.heightPt}`}
      className="block w-full"
      style={ON_PAPER}
      fontFamily="var(--font-text)"
    >
      {page.items.map(({ x, y, scale, shapes, role, says }, index) => (
        <g
          key={index}
          transform={`translate(${x} ${y}) scale(${scale})`}
          {...(role === 'drawing' && { role: 'img', 'aria-label': says })}
        >
          <Shapes shapes={shapes} />
        </g>
      ))}
    </svg>
  );
});

/** On paper there is nothing but the pages. */
function Printed({ pages }: { readonly pages: readonly SheetPage[] }) {
  const first = pages[0];
  return (
    <div className="printed-pages">
      {first && <style>{`@page { size: ${first.widthPt}pt ${first.heightPt}pt; margin: 0; }`}</style>}
      {pages.map((page, index) => (
        <Page key={index} page={page} />
      ))}
    </div>
  );
}

function useIsPrinting(): boolean {
  const [isPrinting, setPrinting] = useState(false);
  useEffect(() => {
    const begins = () => flushSync(() => setPrinting(true));
    const ends = () => setPrinting(false);
    window.addEventListener('beforeprint', begins);
    window.addEventListener('afterprint', ends);
    return () => {
      window.removeEventListener('beforeprint', begins);
      window.removeEventListener('afterprint', ends);
    };
  }, []);
  return isPrinting;
}
