export { startServer } from './server.ts';
export type { RunningServer, ServerOptions } from './server.ts';
export { DataFolderError } from './database/dataFolder.ts';
export { copyDatabase } from './backup/copyDatabase.ts';
export { restoreFolder } from './backup/restoreDatabase.ts';
export { setPasswordInFolder } from './accounts/passwordInFolder.ts';
export { hallHosts } from './rooms/addresses.ts';
export { archiveOfFolder, isArchiveFile, restoreArchiveFolder } from './archive/archiveFolder.ts';
export { archiveLines } from '@anchorbeat/contract';
