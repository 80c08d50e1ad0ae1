import { expose } from 'comlink';

/**
 * Offers a worker's functions while they are still being loaded: the measuring core waits for its WebAssembly, and calls that
 * come in the meantime must not be lost. Order is kept.
 */
export const exposeLater = <Api extends Record<string, (...args: never[]) => unknown>>(load: () => Promise<Api>): void => {
  const loaded = load();
  expose(
    new Proxy(
      {},
      {
        get:
          (_, name: string) =>
          async (...args: never[]) =>
            (await loaded)[name]?.(...args),
      },
    ),
  );
};
