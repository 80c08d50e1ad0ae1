import { beatAt } from '@isochron/core/material';
import type { LoopState } from '@isochron/core/strategy';
import { type ComponentProps, memo, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useSettings } from '../../api/settings';
import { useBench } from '../../stores/bench';
import { Strip } from '../../strip/Strip';
import type { StripRepetition } from '../../strip/strip-layout';

/** Often enough that no beat of a tempo that can be followed is missed. */
const LOOK_MS = 80;

/** The whole beat of the plan that sounds now; the first one while it is counted in. */
const useBeat = (plan: LoopState['plan']): number => {
  const [beat, setBeat] = useState(0);
  useEffect(() => {
    const look = () => {
      const nowS = useBench.getState().running?.audio.nowS();
      if (plan && nowS !== undefined) setBeat(Math.max(0, Math.floor(beatAt(plan, nowS))));
    };
    look();
    const looking = setInterval(look, LOOK_MS);
    return () => clearInterval(looking);
  }, [plan]);
  return beat;
};

/** The repetition that sounds, as far as it is behind; null while nothing of it is. */
const useSounding = (plan: LoopState['plan']): StripRepetition | null => {
  const behind = useBench((bench) => bench.behind);
  const played = useBench(({ loop }) => loop.repetitions.length);
  return useMemo(() => {
    if (!plan || behind?.repetition !== played) return null;
    // What was added between the notes is certain at the end only.
    const { notes, centreMs } = behind;
    return { index: played, tempo: plan.tempo, downbeatS: plan.downbeatS, notes, extras: [], measures: { centreMs } };
  }, [plan, behind, played]);
};

const DrawnStrip = memo(Strip);

/**
 * The strip while one plays: it goes on with the playing, shows what is behind, and marks the bar where the player wants that. The words of
 * a verdict do not wait until its row is drawn.
 */
export const FollowedStrip = (props: Omit<ComponentProps<typeof Strip>, 'beat' | 'marksBar' | 'sounding'>) => {
  const { settings } = useSettings();
  const plan = useBench(({ loop }) => loop.plan);
  const isPlaying = useBench(({ loop }) => loop.phase === 'playing');
  const beat = useDeferredValue(useBeat(plan));
  const sounding = useDeferredValue(useSounding(plan));
  const grid = useDeferredValue(props.grid);
  const repetitions = useDeferredValue(props.repetitions);
  return (
    <DrawnStrip
      {...props}
      grid={grid}
      repetitions={repetitions}
      sounding={sounding}
      beat={beat}
      marksBar={isPlaying && settings.marksBar}
    />
  );
};
