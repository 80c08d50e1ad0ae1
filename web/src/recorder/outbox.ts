import { now } from '@isochron/core/schema';
import { completeTake } from '@isochron/core/strategy';
import { create } from 'zustand';
import { ApiError, getTake } from '../api/client';
import { refreshStored } from '../api/queries/upkeep';
import { sendTake } from './send-take';
import { holdTake, sendingAlone, takesHeldElsewhere } from './take-locks';
import { chunksHeld, forgetTake, holdsSomething, keep, unsentTakes } from './unsent';
import type { UnsentTake } from './unsent-take';

interface Outbox {
  /** Complete takes that are still on their way. */
  waiting: number;
  /** Takes that were broken off by a closed tab or a crash: the player says what becomes of them. */
  interrupted: UnsentTake[];
  /** Takes that the server did not accept: set aside, so that the others go on. */
  refused: UnsentTake[];
  /** Takes that reached the Ledger since the page was opened. */
  sentIds: string[];
  /** Empty, or why sending does not get on. */
  message: string;
  /** Empty, or what to do about a browser that did not keep the last take. */
  notKept: string;
}

/** What is kept in the browser and not yet on the server. */
export const useOutbox = create<Outbox>(() => ({
  waiting: 0,
  interrupted: [],
  refused: [],
  sentIds: [],
  message: '',
  notKept: '',
}));

const FIRST_RETRY_MS = 2000;
const LAST_RETRY_MS = 30_000;
const UNREADABLE = 'The browser could not read what it kept. It will be tried again.';
const NOT_KEPT =
  'The browser did not keep the last take: its storage is full, or closed to this page. The take goes straight to the server; leave this page open until it is in the Ledger, and free some space before the next one.';

const NOT_KEPT_BUT_SENT =
  'The browser did not keep the last take: its storage is full, or closed to this page. It went straight to the server and is in the Ledger. Free some space before the next one.';

let sending = false;
let retryMs = FIRST_RETRY_MS;
let timer: ReturnType<typeof setTimeout> | undefined;
/** What this tab waits for: another one may be the one that sends it. */
let expected = new Set<string>();

/** Takes that this tab is playing, or whose recording it still writes: not yet to be sent, by this tab or another. */
const active = new Map<string, () => void>();

let isAsked = false;
/** Asks the browser, once, not to clear away what it keeps when its own room runs short. It may say no: then all is as before. */
const askToPersist = (): void => {
  if (isAsked) return;
  isAsked = true;
  void globalThis.navigator?.storage?.persist?.().catch(() => {});
};

/** A take is begun: it is left alone until {@link endTake}. */
export const beginTake = (takeId: string): void => {
  askToPersist();
  active.set(takeId, holdTake(takeId));
  useOutbox.setState({ notKept: '' });
};

/** A take is over and its recording written: it may be sent. */
export const endTake = (takeId: string): void => {
  active.get(takeId)?.();
  active.delete(takeId);
};

/** Keeps a take until the server has it; says so where the browser refuses. */
export const keepForSending = async (unsent: Omit<UnsentTake, 'refused'>): Promise<'kept' | 'held'> => {
  const how = await keep({ ...unsent, refused: '' });
  // A recording of which parts are held in memory is kept no better than a take that is.
  if (unsent.complete && (how === 'held' || chunksHeld(unsent.take.id).size > 0)) useOutbox.setState({ notKept: NOT_KEPT });
  return how;
};

/** The server has read it and will not have it: sending it again would change nothing. */
const isRefusal = (error: unknown): error is ApiError => error instanceof ApiError && error.status >= 400 && error.status < 500;

const setAside = async (unsent: UnsentTake, message: string): Promise<void> => {
  const aside = { ...unsent, refused: message };
  await keep(aside);
  useOutbox.setState(({ refused }) => ({ refused: [...refused, aside] }));
};

const isSent = (takeId: string) =>
  useOutbox.setState(({ sentIds, notKept }) => ({
    sentIds: [...sentIds, takeId],
    notKept: notKept && !holdsSomething() ? NOT_KEPT_BUT_SENT : notKept,
  }));

/** Sends complete takes one after the other; gives back how many reached the server. */
const sendAll = async (complete: readonly UnsentTake[]): Promise<number> => {
  let sent = 0;
  for (const [k, one] of complete.entries()) {
    try {
      await sendTake(one);
      await forgetTake(one.take.id);
      expected.delete(one.take.id);
      isSent(one.take.id);
      sent += 1;
    } catch (error) {
      if (!isRefusal(error)) throw error;
      await setAside(one, error.message);
    }
    useOutbox.setState({ waiting: complete.length - 1 - k });
  }
  return sent;
};

const later = () => {
  timer = setTimeout(sendUnsent, retryMs);
  retryMs = Math.min(LAST_RETRY_MS, retryMs * 2);
};

/** Looks at what is unsent, shows it, and gives back what is complete and not set aside. */
const lookThrough = async (): Promise<UnsentTake[]> => {
  const held = await takesHeldElsewhere();
  const { takes, trouble } = await unsentTakes();
  const unsent = takes.filter(({ take }) => !active.has(take.id) && !held.has(take.id));
  const complete = unsent.filter((one) => one.complete && !one.refused);
  if (!trouble) {
    const now = new Set(takes.map(({ take }) => take.id));
    // What this tab waited for and is gone was sent, or thrown away, by another one.
    const gone = [...expected].filter((id) => !now.has(id));
    for (const id of gone)
      await getTake(id).then(
        () => isSent(id),
        () => {},
      );
    if (gone.length > 0) await refreshStored();
  }
  expected = new Set(complete.map(({ take }) => take.id));
  useOutbox.setState({
    waiting: complete.length,
    interrupted: unsent.filter((one) => !one.complete),
    refused: unsent.filter((one) => one.complete && one.refused),
    message: trouble ? UNREADABLE : '',
  });
  return complete;
};

/** Sends what is complete, one take at a time, one tab at a time; tries again later where the server does not answer. */
export const sendUnsent = async (): Promise<void> => {
  if (sending) return;
  sending = true;
  clearTimeout(timer);
  let sent = 0;
  try {
    const complete = await lookThrough();
    const wasAlone = await sendingAlone(async () => {
      sent = await sendAll(complete);
    });
    if (wasAlone) retryMs = FIRST_RETRY_MS;
    if (!wasAlone || useOutbox.getState().message) later();
  } catch (error) {
    useOutbox.setState({ message: error instanceof ApiError ? error.message : UNREADABLE });
    later();
  } finally {
    sending = false;
  }
  if (sent > 0) await refreshStored();
};

/** Completes an interrupted take and sends it. One that another tab has begun to play again is left alone. */
export const saveInterrupted = async (unsent: UnsentTake): Promise<void> => {
  if (!(await takesHeldElsewhere()).has(unsent.take.id))
    await keep({ ...unsent, take: completeTake(unsent.take, now()), complete: true });
  await sendUnsent();
};

/** Sends a take once more that was not accepted: the server may have been updated, or its passage be back. */
export const tryAgain = async (unsent: UnsentTake): Promise<void> => {
  await keep({ ...unsent, refused: '' });
  await sendUnsent();
};

/** Throws a take away that is kept here; not one that another tab is playing. */
export const discardInterrupted = async (unsent: UnsentTake): Promise<void> => {
  if (!(await takesHeldElsewhere()).has(unsent.take.id)) {
    expected.delete(unsent.take.id);
    await forgetTake(unsent.take.id);
  }
  await sendUnsent();
};
