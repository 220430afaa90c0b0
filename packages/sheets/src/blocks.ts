import type { Shape, Tone } from '@anchorbeat/drawing';
import { faceOf, type FaceId } from './faces.ts';
import { wrapped } from './measure.ts';
import type { Block, ItemRole, PageItem } from './page.ts';

const LINE_HEIGHT = 1.32;

export interface TextLook {
  readonly size: number;
  readonly weight?: 400 | 700 | 800;
  readonly face?: 'text' | 'display';
  readonly tone?: Tone;
  readonly isItalic?: boolean;
}

/** Lines of text from the upper left corner, wrapped to a width, in points. */
export function textBlock(
  text: string,
  { size, ...look }: TextLook,
  widthPt: number,
  { role = 'words', afterPt = 0, x = 0 }: { role?: ItemRole; afterPt?: number; x?: number } = {},
): Block {
  const lines = wrapped(text, faceOf(look) satisfies FaceId, size, widthPt);
  const shapes = lines.map((line, index): Shape => ({
    kind: 'text',
    x: 0,
    y: size + index * size * LINE_HEIGHT,
    parts: [{ text: line }],
    sizePx: size,
    tone: look.tone ?? 'ink',
    ...look,
  }));
  return {
    heightPt: lines.length * size * LINE_HEIGHT + afterPt,
    items: shapes.length > 0 ? [{ role, x, y: 0, scale: 1, shapes, says: text }] : [],
  };
}

export function heading(text: string, widthPt: number, size = 13): Block {
  const block = textBlock(text, { size, weight: 800, face: 'display' }, widthPt, {
    role: 'heading',
    afterPt: 3,
  });
  return { ...spaced(block, 8), staysWithNext: true };
}

/** A block with air above. */
export function spaced(block: Block, abovePt: number): Block {
  return {
    ...block,
    heightPt: block.heightPt + abovePt,
    items: block.items.map((item) => ({ ...item, y: item.y + abovePt })),
  };
}

/** Blocks one under the other as one that is not cut. */
export function stacked(blocks: readonly Block[]): Block {
  let y = 0;
  const items: PageItem[] = [];
  for (const block of blocks) {
    items.push(...block.items.map((item) => ({ ...item, y: item.y + y })));
    y += block.heightPt;
  }
  return { heightPt: y, items };
}

/** Blocks side by side, each at its own `x`. */
export function besides(blocks: ReadonlyArray<{ readonly x: number; readonly block: Block }>): Block {
  return {
    heightPt: Math.max(0, ...blocks.map(({ block }) => block.heightPt)),
    items: blocks.flatMap(({ x, block }) => block.items.map((item) => ({ ...item, x: item.x + x }))),
  };
}

/** A thin rule across. */
export function rule(widthPt: number): Block {
  return {
    heightPt: 5,
    items: [
      {
        role: 'furniture',
        x: 0,
        y: 2,
        scale: 1,
        shapes: [{ kind: 'path', d: `M0 0H${widthPt}`, stroke: 'quiet', strokePx: 0.5 }],
      },
    ],
  };
}

/** A drawing with what it shows in words. */
export function drawing(
  shapes: readonly Shape[],
  {
    says,
    x = 0,
    y,
    scale,
    heightPt,
  }: { says: string; x?: number; y: number; scale: number; heightPt: number },
): Block {
  return { heightPt, items: [{ role: 'drawing', x, y, scale, shapes, says }] };
}
