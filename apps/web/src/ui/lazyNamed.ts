import { lazy, type ComponentType, type LazyExoticComponent } from 'react';

/** A component that is loaded when it is first shown, by its name in its module. */
export function lazyNamed<Name extends string, Props>(
  name: Name,
  load: () => Promise<Readonly<Record<Name, ComponentType<Props>>>>,
): LazyExoticComponent<ComponentType<Props>> {
  return lazy(async () => ({ default: (await load())[name] }));
}
