import { profileOf, toleranceFor } from '@isochron/core/analysis';
import { afterTake } from '@isochron/core/planning';
import {
  type Drill,
  type LoopSnapshot,
  now,
  type Passage,
  type PracticeConfig,
  type Purpose,
  type Settings,
  type Take,
  type Tolerance,
} from '@isochron/core/schema';
import { type LoopState, makeTake, snapshotOf } from '@isochron/core/strategy';
import { shownPracticeConfig, showPracticeConfig } from '../api/queries/practice';
import { whenIdle } from '../app/after';
import { openTakeAudio, type TakeAudio } from '../audio/take-audio';
import { notKeptWords } from '../recorder/not-kept';
import { beginTake, endTake, keepForSending, sendUnsent } from '../recorder/outbox';
import { forgetTake, holdChunks } from '../recorder/unsent';
import { presentPracticeSession, stand } from './practice-session';

/** How long what was measured may wait until it is kept in the browser. */
const KEPT_WITHIN_MS = 200;

/** What a take is begun with. */
export interface Beginning {
  passage: Passage;
  config: PracticeConfig;
  /** What is played in turn. */
  drills: readonly Drill[];
  startBpm: number;
  settings: Settings;
  purpose: Purpose;
  /** Where a take that was broken off stood, to go on from there. */
  from: LoopSnapshot | null;
}

/** A take from its first count-in until another is begun. */
export interface RunningTake {
  readonly takeId: string;
  readonly beginning: Beginning;
  readonly audio: TakeAudio;
  /** What it is judged by: as the player set it, for what is played. */
  readonly tolerance: Tolerance;
  /** True once the sound is closed; an answer about ease may still come. */
  isOver(): boolean;
  /** Keeps it in the browser as the loop stands; `complete` says that it may go to the server. */
  keep(loop: LoopState, complete: boolean): Promise<void>;
  /** Closes the sound, shows what the take leaves for its configuration, and sends it. `loopAfter` tells the loop as it stands by then. */
  finish(loopAfter: () => LoopState): Promise<void>;
}

type Hearing = Pick<
  Parameters<typeof openTakeAudio>[0],
  'onHeard' | 'onNotBegun' | 'onBehind' | 'onLevel' | 'onTrouble' | 'onLost'
>;

/**
 * Opens the sound for a take and begins it. Throws an AppError where there is none.
 *
 * @param isPresent whether this take is still the one on the Bench: where the practice session stands follows that one only
 */
export const startTake = async (
  takeId: string,
  beginning: Beginning,
  hearing: Hearing,
  isPresent: () => boolean,
): Promise<RunningTake> => {
  beginTake(takeId);
  const { drills, settings, passage, config, purpose } = beginning;
  const accompanimentId = drills.find(({ playAlong }) => playAlong)?.playAlong?.accompanimentId;
  const audio = await openTakeAudio({ takeId, accompanimentId, settings, ...hearing }).catch((error) => {
    endTake(takeId);
    throw error;
  });
  const tolerance = toleranceFor(settings.tolerance, profileOf(audio.profileId));
  const startedAt = now();
  let endedAt: Date | null = null;

  const takeOf = (loop: LoopState): Take =>
    makeTake({
      id: takeId,
      sessionId: presentPracticeSession().id,
      passage,
      config,
      startedAt,
      endedAt,
      input: settings.input,
      purpose,
      goalBpm: loop.target.goalBpm,
      startBpm: loop.target.startBpm,
      strategy: snapshotOf(loop.decisions.strategy),
      tolerance,
      latencyS: audio.latencyS,
      profileId: audio.profileId,
      // The loop's own: it adds what is taken up again.
      drills: [...loop.drills],
      repetitions: loop.repetitions,
    });

  const keep = async (loop: LoopState, complete: boolean): Promise<void> => {
    if (loop.repetitions.length === 0) return;
    if (!complete) {
      // The verdict is drawn first.
      await whenIdle(KEPT_WITHIN_MS);
      // Meanwhile it has ended, and is kept whole.
      if (endedAt !== null) return;
    }
    const snapshot = {
      takeId,
      repetitions: loop.repetitions.length,
      drill: loop.drillIndex,
      tempo: loop.tempo,
      strategy: snapshotOf(loop.decisions.strategy),
      isBack: loop.decisions.isBack,
      finishCleans: loop.decisions.finishCleans,
      tense: loop.decisions.tense,
    };
    if (isPresent()) stand(complete ? null : snapshot);
    const how = await keepForSending({ session: presentPracticeSession(), take: takeOf(loop), complete });
    if (how === 'held' && isPresent()) hearing.onTrouble(notKeptWords('take'));
  };

  return {
    takeId,
    beginning,
    audio,
    tolerance,
    isOver: () => endedAt !== null,
    keep,
    async finish(loopAfter) {
      endedAt = now();
      holdChunks(await audio.close());
      // Shown at once, whether or not the server is there: for the configuration as it is kept, not as a block or a recording had it
      // practised.
      showPracticeConfig(afterTake(shownPracticeConfig(config), takeOf(loopAfter())));
      await keep(loopAfter(), true);
      if (loopAfter().repetitions.length === 0) {
        if (isPresent()) stand(null);
        // Stopped before its first verdict: its sound belongs to nothing.
        await forgetTake(takeId).catch(() => {});
      }
      endTake(takeId);
      await sendUnsent();
    },
  };
};
