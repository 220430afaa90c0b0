import type { OpenAPIObject } from '@nestjs/swagger';

/** Says for an address of the API which methods it answers to, by the document that describes it. */
export function methodsByPath(documentOf: () => OpenAPIObject): (path: string) => readonly string[] {
  let known: ReadonlyArray<{ readonly pattern: RegExp; readonly methods: readonly string[] }> | null = null;
  return (path) => {
    known ??= Object.entries(documentOf().paths).map(([template, item]) => ({
      pattern: new RegExp(`^${template.replaceAll(/\{\w+\}/g, '[^/]+')}/?$`),
      methods: Object.keys(item).map((method) => method.toUpperCase()),
    }));
    const methods = known.find(({ pattern }) => pattern.test(path))?.methods ?? [];
    return methods.includes('GET') ? [...methods, 'HEAD'] : methods;
  };
}
