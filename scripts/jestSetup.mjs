import { buildServer } from './prepare.mjs';

/** Server tests talk to the server as it is started, so it is built first where it is stale. */
export default buildServer;
