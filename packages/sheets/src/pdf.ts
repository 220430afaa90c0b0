// oxlint-disable-next-line typescript/triple-slash-reference -- whoever takes this source needs its types too
/// <reference path="./pdfkit.d.ts" />
import type { PathShape, TextShape } from '@anchorbeat/drawing';
import { MUSIC_OUTLINES } from '@anchorbeat/drawing';
import type PDFDocument from 'pdfkit';
import { FACE_IDS, FONT_KINDS, type FaceId, type FontKind } from './faces.ts';
import { letterWidth, placedParts, type PlacedPart } from './measure.ts';
import type { ItemRole, PageItem, SheetDocument } from './page.ts';
import { PAPER_PALETTE } from './palette.ts';

/** The font files of every face, as they lie in their packages. */
export type SheetFonts = Readonly<Record<FaceId, Readonly<Record<FontKind, Uint8Array>>>>;

/** What a part of the page is in the structure of the file; null for what repeats on every page. */
const TAGS: Readonly<Record<ItemRole, string | null>> = {
  title: 'H1',
  heading: 'H2',
  words: 'P',
  drawing: 'Figure',
  furniture: null,
};

/**
 * The sheet as a PDF file: fonts embedded, letters as text, signs as outlines, parts told apart for reading aloud.
 * `onProgress` is told the share of the pages that are done, 0 to 1.
 */
export async function writePdf(
  sheet: SheetDocument,
  fonts: SheetFonts,
  onProgress: (share: number) => void = () => undefined,
): Promise<Uint8Array<ArrayBuffer>> {
  // The writer is large: who only shows pages never loads it.
  const [{ default: Document }, { toBytes }] = await Promise.all([import('pdfkit'), import('pdfkit/output')]);
  const first = sheet.pages[0];
  const document = new Document({
    size: [first?.widthPt ?? 1, first?.heightPt ?? 1],
    margin: 0,
    autoFirstPage: false,
    tagged: true,
    lang: 'en',
    displayTitle: true,
    pdfVersion: '1.7',
    font: null,
    info: { Title: sheet.title, Creator: 'Anchorbeat', Producer: 'Anchorbeat' },
  });
  const bytes = toBytes(document);
  const pen = new Pen(document, fonts);
  sheet.pages.forEach((page, index) => {
    document.addPage({ size: [page.widthPt, page.heightPt], margin: 0 });
    for (const item of page.items) pen.item(item);
    onProgress((index + 1) / sheet.pages.length);
  });
  document.end();
  return bytes;
}

type Doc = InstanceType<typeof PDFDocument>;

/** Draws shapes on the current page of a document. */
class Pen {
  readonly #document: Doc;
  readonly #fonts: SheetFonts;
  readonly #known = new Map<string, ReadonlySet<number>>();
  readonly #root: ReturnType<Doc['struct']>;

  constructor(document: Doc, fonts: SheetFonts) {
    this.#document = document;
    this.#fonts = fonts;
    this.#root = document.struct('Document');
    document.addStructure(this.#root);
  }

  item(item: PageItem): void {
    const tag = TAGS[item.role];
    const draw = () => this.#shapes(item);
    if (tag === null) {
      this.#document.markContent('Artifact', { type: 'Pagination' });
      draw();
      this.#document.endMarkedContent();
      return;
    }
    const alt = item.says && item.role === 'drawing' ? { alt: item.says } : {};
    this.#root.add(this.#document.struct(tag, alt, draw));
  }

  #shapes({ x, y, scale, shapes }: PageItem): void {
    this.#document.save();
    this.#document.translate(x, y).scale(scale);
    for (const shape of shapes) {
      if (shape.kind === 'path') this.#path(shape);
      else this.#text(shape);
    }
    this.#document.restore();
  }

  #path({ d, fill, stroke, strokePx = 1, opacity = 1, dashPx, hasRoundEnds }: PathShape): void {
    const document = this.#document;
    document.save();
    if (opacity < 1) document.opacity(opacity);
    document
      .lineWidth(strokePx)
      .lineCap(hasRoundEnds ? 'round' : 'butt')
      .lineJoin('round');
    if (dashPx) document.dash(dashPx[0] ?? 1, { space: dashPx[1] ?? 1 });
    document.path(d);
    if (fill && stroke) document.fillAndStroke(PAPER_PALETTE[fill], PAPER_PALETTE[stroke]);
    else if (fill) document.fill(PAPER_PALETTE[fill]);
    else if (stroke) document.stroke(PAPER_PALETTE[stroke]);
    document.restore();
  }

  #text(shape: TextShape): void {
    for (const part of placedParts(shape)) {
      if (shape.haloPx) this.#halo(part, shape.haloPx);
      if (part.isMusic) this.#music(part);
      else this.#letters(part);
    }
  }

  /** Paper round letters that stand over a line. */
  #halo({ text, face, x, y, size }: PlacedPart, haloPx: number): void {
    const [left, top] = [x - haloPx / 2, y - size * 0.8];
    const [right, bottom] = [x + letterWidth(text, face, size) + haloPx / 2, y + size * 0.25];
    this.#document.path(`M${left} ${top}H${right}V${bottom}H${left}Z`).fill(PAPER_PALETTE.ground);
  }

  #music({ text, x, y, size, tone }: PlacedPart): void {
    const document = this.#document;
    let left = x;
    for (const sign of text) {
      const outline = MUSIC_OUTLINES[sign];
      if (!outline) continue;
      document.save();
      document.translate(left, y).scale(size / 1000);
      document.path(outline.d).fill(PAPER_PALETTE[tone]);
      document.restore();
      left += (outline.advance / 1000) * size;
    }
  }

  #letters({ text, face, x, y, size, tone }: PlacedPart): void {
    const document = this.#document;
    let left = x;
    for (const { letters, font } of this.#runs(text, face)) {
      document.font(font).fontSize(size).fillColor(PAPER_PALETTE[tone]);
      document.text(letters, left, y, { lineBreak: false, baseline: 'alphabetic' });
      left += document.widthOfString(letters);
    }
  }

  /** Text in runs of one font file; a letter that none has stands as a question mark. */
  #runs(text: string, face: FaceId): ReadonlyArray<{ readonly letters: string; readonly font: string }> {
    const runs: Array<{ letters: string; font: string }> = [];
    for (const letter of text.replaceAll('\u200b', '')) {
      const code = letter.codePointAt(0) ?? 0;
      const file = FONT_KINDS.find((kind) => this.#lettersOf(face, kind).has(code));
      const font = `${face} ${file ?? 'plain'}`;
      const shown = file ? letter : '?';
      const last = runs.at(-1);
      if (last?.font === font) last.letters += shown;
      else runs.push({ letters: shown, font });
    }
    return runs;
  }

  /** The letters that a font file has; it is read when it is first needed. */
  #lettersOf(face: FaceId, kind: FontKind): ReadonlySet<number> {
    const id = `${face} ${kind}`;
    const known = this.#known.get(id);
    if (known) return known;
    this.#document.registerFont(id, this.#fonts[face][kind]);
    this.#document.font(id);
    const letters = new Set(this.#document._font.font.characterSet);
    this.#known.set(id, letters);
    return letters;
  }
}

/** The files to be read for the faces of a sheet, by a function that reads one. */
export async function sheetFonts(
  read: (face: FaceId, kind: FontKind) => Promise<Uint8Array>,
): Promise<SheetFonts> {
  const entries = await Promise.all(
    FACE_IDS.map(async (face) => {
      const files = await Promise.all(
        FONT_KINDS.map(async (kind) => [kind, await read(face, kind)] as const),
      );
      return [face, Object.fromEntries(files)] as const;
    }),
  );
  return Object.fromEntries(entries) as unknown as SheetFonts;
}
