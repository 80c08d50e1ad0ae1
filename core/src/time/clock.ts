/** How far the program's clock is from the machine's, in ms. */
let aheadMs = 0;

/** What time it is, for everything that depends on the calendar: the machine's clock, unless it was set. */
export const now = (): Date => new Date(Date.now() + aheadMs);

/** As {@link now}, in ms since 1970. */
export const nowMs = (): number => Date.now() + aheadMs;

/** Sets the clock to a moment, from which it runs on; null gives the machine's back. Only a program's start and tests set it. */
export const setClock = (moment: Date | null): void => {
  aheadMs = moment ? moment.getTime() - Date.now() : 0;
};
