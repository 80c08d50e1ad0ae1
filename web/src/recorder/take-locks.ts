/** The lock that a tab holds while it plays a take: other tabs and windows see it, and it goes with the tab. */
const NAME = 'isochron-take-';

const locks = (): LockManager | undefined => globalThis.navigator?.locks;

/** Holds a take for this tab until what it gives back is called. */
export const holdTake = (takeId: string): (() => void) => {
  let release = () => {};
  const done = new Promise<void>((resolve) => {
    release = resolve;
  });
  void locks()?.request(NAME + takeId, () => done);
  return release;
};

/** The takes that some tab is playing now. */
export const heldTakeIds = async (): Promise<ReadonlySet<string>> => {
  const { held = [] } = (await locks()?.query()) ?? {};
  return new Set(held.flatMap(({ name }) => (name?.startsWith(NAME) ? [name.slice(NAME.length)] : [])));
};
