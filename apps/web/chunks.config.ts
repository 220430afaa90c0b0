import { dirname, join } from 'node:path';
import type { Rolldown } from 'vite';

type InfoOf = (id: string) => Rolldown.ModuleInfo | null;

/**
 * Which files the app comes in. Left to itself the bundler makes a file of every few modules that the same screens share: a map
 * would ask for fifty. Here a file each is what both pages start with, what the director's starts with, what stands share with
 * screens, and what screens share with one another; only of the last a screen loads some that it does not need.
 */
export const CHUNKS = {
  includeDependenciesRecursively: false,
  groups: [
    { name: chunkFor('base', ({ app, stand }) => app && stand), priority: 4 },
    { name: chunkFor('app', ({ app }) => app), priority: 3 },
    { name: chunkFor('stands', ({ stand, screens }) => stand && screens > 0), priority: 2 },
    { name: chunkFor('screens', ({ screens }) => screens > 1), priority: 1 },
  ],
};

/** Who needs a module before anything is seen: the director's page, a stand's, and how many of the screens. */
interface Wanted {
  readonly app: boolean;
  readonly stand: boolean;
  readonly screens: number;
}

function chunkFor(name: string, isFor: (wanted: Wanted) => boolean) {
  let known: ReturnType<typeof closures> | undefined;
  return (id: string, context: { readonly getModuleInfo: InfoOf }): string | null => {
    known ??= closures((module) => context.getModuleInfo(module));
    const { app, stand, screens } = known;
    const wanted = {
      app: app.has(id),
      stand: stand.has(id),
      screens: screens.filter((screen) => screen.has(id)).length,
    };
    return isFor(wanted) ? name : null;
  };
}

const idOf = (path: string) => join(import.meta.dirname, 'src', path);

function closures(infoOf: InfoOf) {
  const screens = infoOf(idOf('app/routes.tsx'))?.dynamicallyImportedIds ?? [];
  if (screens.length === 0) throw new Error('the screens are no longer listed in app/routes.tsx');
  return {
    app: closureOf(idOf('main.tsx'), infoOf),
    stand: closureOf(idOf('stand/main.tsx'), infoOf),
    screens: screens.map((screen) => closureOf(screen, infoOf)),
  };
}

/**
 * A module with all that it imports, however far; of a package's index only where the names come from that are asked for. What is
 * asked of a collection of components is left to the bundler.
 */
function closureOf(id: string, infoOf: InfoOf): ReadonlySet<string> {
  const found = new Set([id]);
  for (const each of found) {
    const info = infoOf(each);
    for (const imported of info?.importedIds ?? [])
      if (COLLECTION.test(imported)) continue;
      else if (!INDEX.test(imported)) found.add(imported);
      else for (const source of namedSources(info?.code ?? '', imported, infoOf)) found.add(source);
  }
  return found;
}

const COLLECTION = /[\\/]node_modules[\\/]radix-ui[\\/]/;
const INDEX = /[\\/]packages[\\/](\w+)[\\/]src[\\/]index\.ts$/;
const IMPORTED = /import\s*\{([^}]*)\}\s*from\s*["']@anchorbeat\/(\w+)["']/g;
const EXPORTED = /export\s*\{([^}]*)\}\s*from\s*["'](\.[^"']+)["']/g;

/** Where the names come from that some code imports from the index of a package. */
function namedSources(code: string, index: string, infoOf: InfoOf): readonly string[] {
  const [, name] = INDEX.exec(index) ?? [];
  const wanted = new Set(
    [...code.matchAll(IMPORTED)].filter(([, , from]) => from === name).flatMap(([, names]) => namesIn(names)),
  );
  return [...(infoOf(index)?.code ?? '').matchAll(EXPORTED)]
    .filter(([, names]) => namesIn(names).some((each) => wanted.has(each)))
    .map(([, , path = '']) => join(dirname(index), path));
}

function namesIn(list = ''): readonly string[] {
  return list.split(',').map((each) => each.trim().split(/\s+as\s+/)[0] ?? '');
}
