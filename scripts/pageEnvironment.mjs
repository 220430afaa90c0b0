import { TestEnvironment } from 'jest-environment-jsdom';

/** A page for components: a browser's document, with what it lacks for our screens and the web's own fetch. */
export default class PageEnvironment extends TestEnvironment {
  async setup() {
    await super.setup();
    const { global: page } = this;
    Object.assign(page, { Headers, Response, structuredClone, TextEncoder, TextDecoder });
    page.fetch = () => Promise.reject(new TypeError('nobody answers'));
    page.Request = class extends Request {
      /** Addresses are of the page; a page's own signal is not one of Node's. */
      constructor(address, init = {}) {
        const ours = address instanceof Request ? address : new URL(address, page.location.href);
        super(ours, { ...init, signal: undefined });
      }
    };
    page.matchMedia = (media) => ({
      media,
      matches: media.includes('reduced-motion'),
      addEventListener: () => undefined,
      removeEventListener: () => undefined,
    });
    // Everything is as wide as this, and seen.
    const seen = (target) => ({ target, contentRect: { width: 1200, height: 800 }, isIntersecting: true });
    page.ResizeObserver = page.IntersectionObserver = class {
      constructor(tell) {
        this.tell = tell;
      }
      observe(target) {
        this.tell([seen(target)]);
      }
      unobserve() {}
      disconnect() {}
    };
    page.Blob.prototype.arrayBuffer = function () {
      return read(new page.FileReader(), 'readAsArrayBuffer', this);
    };
    page.Blob.prototype.text = function () {
      return read(new page.FileReader(), 'readAsText', this);
    };
    page.Element.prototype.scrollIntoView = () => undefined;
    page.HTMLCanvasElement.prototype.getContext = function () {
      return drawingNothing(this);
    };
  }
}

/** What is in a file, by the way of a reader: "readAsText". */
function read(reader, way, file) {
  return new Promise((resolve, reject) => {
    reader.onload = () => resolve(reader.result);
    reader.onerror = () => reject(reader.error);
    reader[way](file);
  });
}

/** Takes everything that is drawn on a canvas, and draws nothing. */
function drawingNothing(canvas) {
  const known = { canvas, measureText: () => ({ width: 0 }), getLineDash: () => [] };
  return new Proxy(known, { get: (context, name) => context[name] ?? (() => undefined), set: () => true });
}
