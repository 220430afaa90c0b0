export { startServer } from './server.ts';
export type { ServerOptions } from './server.ts';
