import type { Take } from '@isochron/core/schema';
import { mergeTake } from '@isochron/core/strategy';
import { ApiError, getTake, putPracticeSession, putTake } from '../api/client';
import { keptRecording } from './kept-recording';
import { sendRecording } from './send-recording';
import type { UnsentTake } from './unsent-take';

const CHANGED = 412;
const TRIES = 5;

/** Stores a take; where the server has another revision of it, the two are put together first. */
const putMerged = async (mine: Take): Promise<void> => {
  let take = mine;
  for (let attempt = 1; ; attempt += 1) {
    try {
      await putTake(take);
      return;
    } catch (error) {
      if (!(error instanceof ApiError && error.status === CHANGED) || attempt === TRIES) throw error;
      take = mergeTake(await getTake(mine.id), mine);
    }
  }
};

/** Sends a take, its practice session before it and its recording after it. Throws ApiError. */
export const sendTake = async ({ session, take }: UnsentTake): Promise<void> => {
  await putPracticeSession(session);
  const recording = await keptRecording(take.id);
  await putMerged({ ...take, gaps: recording?.gaps ?? take.gaps });
  if (recording) await sendRecording(take.id, recording);
};
