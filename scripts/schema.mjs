import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PIECE_SCHEMA } from '@anchorbeat/formats';
import { ROOT } from './fresh.mjs';

/** Writes the published schema from the one the program uses. */
writeFileSync(join(ROOT, 'docs/piece-1.schema.json'), `${JSON.stringify(PIECE_SCHEMA, null, 2)}\n`);
