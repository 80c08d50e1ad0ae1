import { nowMs } from '@isochron/core/schema';
import { afterTakeInRun, leftMs, runBlock } from '@isochron/core/strategy';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { usePassagesAhead } from '../../api/queries/passages';
import { useSettings } from '../../api/settings';
import { speak } from '../../audio/speech';
import { useBench } from '../../stores/bench';
import { endRun, holdRun, nextBlock, useRun } from '../../stores/run';
import { blockPath, useNow } from './use-run';

/** Leads a run, and draws nothing: time that is up ends the take, and what a take came to leads to the next block. */
export const RunLead = () => {
  const run = useRun((store) => store.run);
  const phase = useBench((bench) => bench.loop.phase);
  const ended = useBench((bench) => bench.loop.ended);
  const send = useBench((bench) => bench.send);
  const clear = useBench((bench) => bench.clear);
  const navigate = useNavigate();
  const now = useNow();
  const { settings } = useSettings();
  const latest = useRef(settings);
  latest.current = settings;
  usePassagesAhead(run?.blocks.map(({ config }) => config.passageId) ?? []);
  const isUp = run !== null && run.resumedAtMs !== null && leftMs(run, now) === 0;
  const isPlaying = phase !== 'idle' && phase !== 'finished';

  useEffect(() => {
    if (isUp && isPlaying) send({ type: 'time-up' });
  }, [isUp, isPlaying, send]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each end of a take.
  useEffect(() => {
    const snapshot = useRun.getState().run;
    if (!snapshot || phase !== 'finished' || ended === null) return;
    const then = afterTakeInRun(snapshot, ended, nowMs());
    const tell = (words: string) => speak(words, latest.current);
    if (then === 'end') endRun();
    if (then === 'pause') holdRun();
    if (then !== 'next') return;
    nextBlock();
    const next = useRun.getState().run;
    if (!next) {
      tell('That was the last block. The session is over.');
      return;
    }
    clear();
    const block = runBlock(next);
    tell(
      `${block.restMin > 0 ? `A break of ${block.restMin} ${block.restMin === 1 ? 'minute' : 'minutes'}, then` : 'Next:'} ${block.title}.`,
    );
    void navigate(blockPath(runBlock(next)));
  }, [phase, ended]);
  return null;
};
