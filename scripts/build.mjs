import { build, install, requireNode } from './prepare.mjs';

requireNode();
await install();
await build();
