import { use, useEffect, useState, type ComponentType, type ReactNode } from 'react';

/** A module that has a component of this name. */
type Load<Name extends string, Props> = () => Promise<Readonly<Record<Name, ComponentType<Props>>>>;

export interface LazyComponent<Props> {
  (props: Props): ReactNode;
  /** Loads it before it is shown, so that it is shown at once; never fails. */
  readonly load: () => Promise<void>;
}

/**
 * A screen that is loaded when it is first gone to, by its name in its module. One that was loaded before is shown at once:
 * React shows nothing else for a third of a second where a fallback stood, however short.
 */
export function lazyNamed<Name extends string, Props extends object>(
  name: Name,
  load: Load<Name, Props>,
): LazyComponent<Props> {
  const loading = new Loading(name, load);
  function LazyScreen(props: Props) {
    const Loaded = loading.loaded ?? use(loading.asked());
    return <Loaded {...props} />;
  }
  return Object.assign(LazyScreen, { load: () => loading.ahead() });
}

/** A dialog, a chart or another part that is loaded when it is first shown; `meanwhile` stands in its place until then. */
export function lazyPart<Name extends string, Props extends object>(
  name: Name,
  load: Load<Name, Props>,
  meanwhile: ReactNode = null,
): ComponentType<Props> {
  const loading = new Loading(name, load);
  return function LazyPart(props: Props) {
    const [Loaded, setLoaded] = useState(() => loading.loaded);
    const [failure, setFailure] = useState<unknown>();
    useEffect(() => {
      let isWanted = !Loaded;
      loading.asked().then(
        (component) => isWanted && setLoaded(() => component),
        (error: unknown) => isWanted && setFailure(error),
      );
      return () => {
        isWanted = false;
      };
    }, [Loaded]);
    // oxlint-disable-next-line typescript/only-throw-error -- what the browser threw is told as it is
    if (failure !== undefined) throw failure;
    return Loaded ? <Loaded {...props} /> : meanwhile;
  };
}

/** A module that is fetched once. */
class Loading<Name extends string, Props> {
  loaded: ComponentType<Props> | null = null;
  #asked: Promise<ComponentType<Props>> | null = null;

  readonly #name: Name;
  readonly #load: Load<Name, Props>;

  constructor(name: Name, load: Load<Name, Props>) {
    this.#name = name;
    this.#load = load;
  }

  asked(): Promise<ComponentType<Props>> {
    this.#asked ??= this.#load().then((module) => (this.loaded = module[this.#name]));
    return this.#asked;
  }

  /** Before it is shown: what could not be had now is asked for anew when it is shown. */
  async ahead(): Promise<void> {
    await this.asked().catch(() => (this.#asked = null));
  }
}
