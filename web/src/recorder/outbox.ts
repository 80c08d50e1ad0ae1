import { completeTake, writeWav } from '@isochron/core';
import { create } from 'zustand';
import { ApiTrouble, putRecording, putSitting, putTake } from '../api/client';
import { refreshStored } from '../api/queries';
import { forgetTake, keepTake, keptRecording, unsentTakes } from './safe-store';
import { holdTake, takesHeldElsewhere } from './take-locks';
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
}

/** What is kept in the browser and not yet on the server. */
export const useOutbox = create<Outbox>(() => ({ waiting: 0, interrupted: [], refused: [], sentIds: [], message: '' }));

const FIRST_RETRY_MS = 2000;
const LAST_RETRY_MS = 30_000;

let sending = false;
let retryMs = FIRST_RETRY_MS;
let timer: ReturnType<typeof setTimeout> | undefined;

let activeTakeId: string | null = null;
let release = () => {};

/** Names the take that is being played, which is not yet to be sent, by this tab or another; null when none is. */
export const setActiveTake = (takeId: string | null): void => {
  release();
  activeTakeId = takeId;
  release = takeId === null ? () => {} : holdTake(takeId);
};

const sendOne = async ({ sitting, take }: UnsentTake): Promise<void> => {
  await putSitting(sitting);
  await putTake(take);
  const recording = await keptRecording(take.id);
  if (recording) await putRecording(take.id, writeWav(recording.samples, recording.sampleRateHz));
  await forgetTake(take.id);
};

/** The server has read it and will not have it: sending it again would change nothing. */
const isRefusal = (error: unknown): error is ApiTrouble =>
  error instanceof ApiTrouble && error.status >= 400 && error.status < 500;

const setAside = async (unsent: UnsentTake, message: string): Promise<void> => {
  const aside = { ...unsent, refused: message };
  await keepTake(aside);
  useOutbox.setState(({ refused }) => ({ refused: [...refused, aside] }));
};

/** Sends what is complete, one take at a time; tries again later where the server does not answer. */
export const sendUnsent = async (): Promise<void> => {
  if (sending) return;
  sending = true;
  clearTimeout(timer);
  let sent = 0;
  try {
    const held = await takesHeldElsewhere();
    const unsent = (await unsentTakes()).filter(({ take }) => take.id !== activeTakeId && !held.has(take.id));
    const complete = unsent.filter((one) => one.complete && !one.refused);
    let left = complete.length;
    useOutbox.setState({
      waiting: left,
      interrupted: unsent.filter((one) => !one.complete),
      refused: unsent.filter((one) => one.complete && one.refused),
    });
    for (const one of complete) {
      try {
        await sendOne(one);
        sent += 1;
        useOutbox.setState(({ sentIds }) => ({ sentIds: [...sentIds, one.take.id] }));
      } catch (error) {
        if (!isRefusal(error)) throw error;
        await setAside(one, error.message);
      }
      left -= 1;
      useOutbox.setState({ waiting: left });
    }
    useOutbox.setState({ message: '' });
    retryMs = FIRST_RETRY_MS;
  } catch (error) {
    useOutbox.setState({
      message: error instanceof ApiTrouble ? error.message : 'The browser could not read what it kept. It will be tried again.',
    });
    timer = setTimeout(sendUnsent, retryMs);
    retryMs = Math.min(LAST_RETRY_MS, retryMs * 2);
  } finally {
    sending = false;
  }
  if (sent > 0) await refreshStored();
};

/** Completes an interrupted take and sends it. */
export const saveInterrupted = async (unsent: UnsentTake): Promise<void> => {
  await keepTake({ ...unsent, take: completeTake(unsent.take, new Date()), complete: true });
  await sendUnsent();
};

/** Sends a take once more that was not accepted: the server may have been updated, or its passage be back. */
export const tryAgain = async (unsent: UnsentTake): Promise<void> => {
  await keepTake({ ...unsent, refused: '' });
  await sendUnsent();
};

/** Throws a take away that is kept here. */
export const discardInterrupted = async (unsent: UnsentTake): Promise<void> => {
  await forgetTake(unsent.take.id);
  await sendUnsent();
};
