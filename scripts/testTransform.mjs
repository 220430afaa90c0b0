import { readFileSync } from 'node:fs';
import swc from '@swc/jest';
import { BUILT_IN } from './builtIn.mjs';

/** What was compiled before is taken again as long as this file and its list are what they were. */
const OWN_KEY = `${readFileSync(new URL(import.meta.url), 'utf8')} ${BUILT_IN.join(' ')}`;

export default { createTransformer };

/** Compiles a source for Jest; has each module take what the language brings once, and expect quickly (`quickExpect.mjs`). */
function createTransformer(options) {
  const compiler = swc.createTransformer(options);
  return {
    ...compiler,
    getCacheKey: (...args) => `${compiler.getCacheKey(...args)} ${OWN_KEY}`,
    process: (...args) => quickened(compiler.process(...args)),
    processAsync: async (...args) => quickened(await compiler.processAsync(...args)),
  };
}

/** On the first line, so that every fault is still told where it stands in the source. */
function quickened({ code: compiled, map }) {
  const code = compiled.replace(/from (["'])@jest\/globals\1/, 'from "@jest/globals, quickly"');
  const used = BUILT_IN.filter((name) => new RegExp(`\\b${name}\\b`).test(code));
  return { code: used.length > 0 ? `const { ${used.join(', ')} } = globalThis; ${code}` : code, map };
}
