import { dirname, join } from 'node:path';
import type { Plugin, Rolldown } from 'vite';

type InfoOf = (id: string) => Rolldown.ModuleInfo | null;

const idOf = (path: string) => join(import.meta.dirname, 'src', path);
/** What the pages begin with. It does something when it is loaded, so that it stays where nothing else is. */
const APP = idOf('main.tsx');
const STAND = idOf('stand/main.tsx');

/**
 * Which files the app comes in. Left to itself the bundler makes a file of every few modules that the same screens share: a map
 * would ask for fifty. Here a file each is what both pages start with, what the director's starts with, what stands and those who
 * practise at home share with it and with screens, and what screens share; only of the last a screen loads some that it does not
 * need.
 */
export const CHUNKS = {
  includeDependenciesRecursively: false,
  groups: [{ name: chunkNames(), debugName: 'by who loads it' }],
};

/** Fails a build in which a stand would come to load the director's page as well. */
export const STANDS_ALONE: Plugin = {
  name: 'stands-alone',
  generateBundle(_, bundle) {
    const begin = Object.values(bundle).find(
      (file) => file.type === 'chunk' && file.moduleIds.includes(STAND),
    );
    const loaded = new Set(begin && [begin.fileName]);
    for (const name of loaded) {
      const chunk = bundle[name];
      if (chunk?.type !== 'chunk') continue;
      if (chunk.moduleIds.includes(APP)) this.error(`a stand loads the director's page with ${name}`);
      for (const next of [...chunk.imports, ...chunk.dynamicImports]) loaded.add(next);
    }
  },
};

function chunkNames() {
  let known: ReturnType<typeof closures> | undefined;
  return (id: string, context: { readonly getModuleInfo: InfoOf }): string | null => {
    if (id === APP || id === STAND) return null;
    known ??= closures((module) => context.getModuleInfo(module));
    const { app, stand, home } = known;
    const screens = known.screens.filter((screen) => screen.has(id)).length;
    if (app.has(id)) return stand.has(id) ? 'base' : home.has(id) ? 'homeAndApp' : 'app';
    if (stand.has(id)) return screens > 0 ? 'stands' : null;
    if (home.has(id)) return screens > 0 ? 'home' : null;
    return screens > 1 ? 'screens' : null;
  };
}

/** What each needs at once: the director's page, a stand's, who practises at home, and every screen. */
function closures(infoOf: InfoOf) {
  const screens = infoOf(idOf('app/routes.tsx'))?.dynamicallyImportedIds ?? [];
  if (screens.length === 0) throw new Error('the screens are no longer listed in app/routes.tsx');
  const stand = closureOf([STAND], infoOf);
  const home = new Set<string>();
  for (const id of [...stand, ...home])
    for (const later of infoOf(id)?.dynamicallyImportedIds ?? [])
      for (const each of closureOf([later], infoOf)) home.add(each);
  return {
    app: closureOf([APP], infoOf),
    stand,
    home,
    screens: screens.map((screen) => closureOf([screen], infoOf)),
  };
}

/** Modules with all that they import, however far; of an index only where the names come from that are asked for. */
function closureOf(ids: readonly string[], infoOf: InfoOf): ReadonlySet<string> {
  const found = new Set(ids);
  for (const each of found) {
    const info = infoOf(each);
    for (const imported of info?.importedIds ?? []) {
      const sources = INDEXES.find(({ id }) => id.test(imported));
      if (!sources) found.add(imported);
      else for (const source of sources.of(info?.code ?? '', imported, infoOf)) found.add(source);
    }
  }
  return found;
}

interface Index {
  readonly id: RegExp;
  /** Where the names come from that some code imports from it. */
  readonly of: (code: string, index: string, infoOf: InfoOf) => readonly string[];
}

const INDEXES: readonly Index[] = [
  {
    id: /[\\/]packages[\\/]\w+[\\/]src[\\/]index\.ts$/,
    of: (code, index, infoOf) => {
      const wanted = importedNames(code, `@anchorbeat/${/packages[\\/](\w+)/.exec(index)?.[1]}`);
      return [...codeOf(index, infoOf).matchAll(/export\s*\{([^}]*)\}\s*from\s*["'](\.[^"']+)["']/g)]
        .filter(([, names]) => namesIn(names).some(({ inside }) => wanted.has(inside)))
        .map(([, , path = '']) => join(dirname(index), path));
    },
  },
  {
    id: /[\\/]node_modules[\\/]radix-ui[\\/]/,
    of: (code, index, infoOf) => {
      const own = codeOf(index, infoOf);
      const wanted = importedNames(code, 'radix-ui');
      const inside = [...own.matchAll(/export\s*\{([^}]*)\}/g)]
        .flatMap(([, names]) => namesIn(names))
        .filter(({ outside }) => wanted.has(outside))
        .map((name) => name.inside);
      const packages = [...own.matchAll(/import\s*\*\s*as\s+(\w+)\s+from\s*["']([^"']+)["']/g)]
        .filter(([, name = '']) => inside.includes(name))
        .map(([, , from]) => from);
      return (infoOf(index)?.importedIds ?? []).filter((id) =>
        packages.some((from) => id.replaceAll('\\', '/').includes(`/node_modules/${from}/`)),
      );
    },
  },
];

const codeOf = (id: string, infoOf: InfoOf) => infoOf(id)?.code ?? '';

function importedNames(code: string, from: string): ReadonlySet<string> {
  const imports = [...code.matchAll(/import\s*\{([^}]*)\}\s*from\s*["']([^"']+)["']/g)];
  return new Set(
    imports
      .filter(([, , path]) => path === from)
      .flatMap(([, names]) => namesIn(names).map(({ inside }) => inside)),
  );
}

/** The names of "a, b as c": what each is called where it comes from, and where it goes. */
function namesIn(list = ''): ReadonlyArray<{ readonly inside: string; readonly outside: string }> {
  return list
    .split(',')
    .map((each) => each.trim().split(/\s+as\s+/))
    .map(([inside = '', outside = inside]) => ({ inside, outside }));
}
