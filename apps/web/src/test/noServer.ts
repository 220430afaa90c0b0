/** From here on the server of a file's tests refuses everything at once: nothing is sent again and again after them. */
export function withoutServer(): void {
  const refuse = () => Promise.resolve(new Response('{}', { status: 404 }));
  Object.assign(globalThis, { fetch: refuse, Request: RequestHere });
}

/** A request of a page has an address without a host. */
class RequestHere extends Request {
  constructor(path: string, init?: RequestInit) {
    super(new URL(path, 'http://here'), init);
  }
}
