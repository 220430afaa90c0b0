/** The part of pdfkit that sheets are written with. */
declare module 'pdfkit' {
  interface StructElement {
    add(child: StructElement): this;
  }

  export interface Options {
    readonly size: readonly [number, number];
    readonly margin: number;
    readonly autoFirstPage?: boolean;
    readonly tagged?: boolean;
    readonly lang?: string;
    readonly displayTitle?: boolean;
    readonly pdfVersion?: string;
    readonly font?: string | null;
    readonly info?: Readonly<Record<string, string | Date>>;
  }

  // oxlint-disable-next-line no-restricted-exports -- as the package has it
  export default class PDFDocument {
    constructor(options: Options);
    readonly _font: { readonly font: { readonly characterSet: readonly number[] } };
    addPage(options: Pick<Options, 'size' | 'margin'>): this;
    registerFont(name: string, source: Uint8Array): this;
    font(name: string): this;
    fontSize(size: number): this;
    fillColor(color: string): this;
    text(
      text: string,
      x: number,
      y: number,
      options: { readonly lineBreak: boolean; readonly baseline: 'alphabetic' },
    ): this;
    widthOfString(text: string): number;
    save(): this;
    restore(): this;
    translate(x: number, y: number): this;
    scale(factor: number): this;
    opacity(opacity: number): this;
    lineWidth(width: number): this;
    lineCap(cap: 'butt' | 'round'): this;
    lineJoin(join: 'round'): this;
    dash(length: number, options: { readonly space: number }): this;
    path(d: string): this;
    fill(color: string): this;
    stroke(color: string): this;
    fillAndStroke(fill: string, stroke: string): this;
    struct(type: string, options?: { readonly alt?: string }, children?: () => void): StructElement;
    addStructure(element: StructElement): this;
    markContent(tag: string, options?: { readonly type: string }): this;
    endMarkedContent(): this;
    end(): void;
  }
}

declare module 'pdfkit/output' {
  import type PDFDocument from 'pdfkit';
  export function toBytes(document: PDFDocument): Promise<Uint8Array<ArrayBuffer>>;
}
