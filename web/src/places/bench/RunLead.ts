import { nowMs } from '@isochron/core/schema';
import { afterTakeInRun, leftMs, runBlock } from '@isochron/core/strategy';
import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { usePassagesAhead } from '../../api/queries/passages';
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
    if (then === 'end') endRun();
    if (then === 'pause') holdRun();
    if (then !== 'next') return;
    nextBlock();
    const next = useRun.getState().run;
    if (!next) return;
    clear();
    void navigate(blockPath(runBlock(next)));
  }, [phase, ended]);
  return null;
};
