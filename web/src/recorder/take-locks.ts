/** The lock that a tab holds while it plays a take: other tabs and windows see it, and it goes with the tab. */
const NAME = 'isochron-take-';

/** The takes that this tab has held: a lock is given back a moment after it is let go. */
const own = new Set<string>();

const locks = (): LockManager | undefined => globalThis.navigator?.locks;

/** Holds a take for this tab until what it gives back is called. */
export const holdTake = (takeId: string): (() => void) => {
  let release = () => {};
  const done = new Promise<void>((resolve) => {
    release = resolve;
  });
  own.add(takeId);
  void locks()?.request(NAME + takeId, () => done);
  return release;
};

const takesHeld = async (): Promise<string[]> => {
  const { held = [] } = (await locks()?.query()) ?? {};
  return held.flatMap(({ name }) => (name?.startsWith(NAME) ? [name.slice(NAME.length)] : []));
};

/** The takes that another tab or window is playing now. */
export const takesHeldElsewhere = async (): Promise<ReadonlySet<string>> =>
  new Set((await takesHeld()).filter((id) => !own.has(id)));

/** Whether a take is being played now, in whatever tab: what can wait leaves the processor to it. */
export const isAnyTakePlayed = async (): Promise<boolean> => (await takesHeld()).length > 0;

const SENDING = 'isochron-sending';

/** Does something that one tab at a time may do; false, and nothing done, while another tab is at it. */
export const sendingAlone = async (work: () => Promise<void>): Promise<boolean> => {
  const manager = locks();
  if (!manager) {
    await work();
    return true;
  }
  return manager.request(SENDING, { ifAvailable: true }, async (lock) => {
    if (lock) await work();
    return lock !== null;
  });
};
