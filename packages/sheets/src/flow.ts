import type { Block, PageItem, SheetPage } from './page.ts';
import type { PageFrame } from './settings.ts';

const FOOT_PT = 9;
const FOOT_GAP_PT = 12;

/** Blocks down one page after another, each whole, with a foot that says what it is and which page of how many. */
export function flowed(blocks: readonly Block[], frame: PageFrame, foot: string): readonly SheetPage[] {
  const { widthPt, heightPt, marginPt } = frame;
  const bottom = heightPt - marginPt - FOOT_PT - FOOT_GAP_PT;
  const pages: PageItem[][] = [[]];
  let y = marginPt;
  blocks.forEach((block, index) => {
    if (y > marginPt && y + keptTogether(blocks, index) > bottom) {
      pages.push([]);
      y = marginPt;
    }
    pages.at(-1)?.push(...placed(block, marginPt, y, bottom - marginPt));
    y += block.heightPt;
  });
  return pages.map((items, index) => ({
    widthPt,
    heightPt,
    items: [...items, ...footOf(foot, index + 1, pages.length, frame)],
  }));
}

/** The height that must fit from a block on: a heading brings what it stands over. */
function keptTogether(blocks: readonly Block[], index: number): number {
  const block = blocks[index];
  if (!block) return 0;
  return block.heightPt + (block.staysWithNext ? keptTogether(blocks, index + 1) : 0);
}

/** A block that is higher than a page is drawn smaller, so that nothing of it is lost. */
function placed(block: Block, x: number, y: number, mostPt: number): readonly PageItem[] {
  const shrink = Math.min(1, mostPt / block.heightPt);
  return block.items.map((item) => ({
    ...item,
    x: x + item.x * shrink,
    y: y + item.y * shrink,
    scale: item.scale * shrink,
  }));
}

function footOf(
  text: string,
  page: number,
  of: number,
  { widthPt, heightPt, marginPt }: PageFrame,
): readonly PageItem[] {
  const line = (words: string, x: number, anchor: 'start' | 'end'): PageItem => ({
    role: 'furniture',
    x,
    y: heightPt - marginPt,
    scale: 1,
    shapes: [{ kind: 'text', x: 0, y: 0, parts: [{ text: words }], sizePx: FOOT_PT, tone: 'quiet', anchor }],
  });
  return [line(text, marginPt, 'start'), line(`page ${page} of ${of}`, widthPt - marginPt, 'end')];
}

/** Two pages beside each other on one, turned sideways. */
export function twoToAPage(pages: readonly SheetPage[]): readonly SheetPage[] {
  return Array.from({ length: Math.ceil(pages.length / 2) }, (_, index) => {
    const pair = pages.slice(2 * index, 2 * index + 2);
    const { widthPt, heightPt } = pair[0] as SheetPage;
    // The same paper the other way round: what is lost in width is lost in height too.
    const shrink = Math.min(heightPt / 2 / widthPt, widthPt / heightPt);
    return {
      widthPt: heightPt,
      heightPt: widthPt,
      items: pair.flatMap((page, side) =>
        page.items.map((item) => ({
          ...item,
          x: item.x * shrink + (side * heightPt) / 2,
          y: item.y * shrink,
          scale: item.scale * shrink,
        })),
      ),
    };
  });
}
