import { zodResolver } from '@hookform/resolvers/zod';
import { headlineBpm } from '@isochron/core/material';
import { configuredGoalBpm, goalChange, lowerStart } from '@isochron/core/planning';
import {
  type Drill,
  type LoopSnapshot,
  type Passage,
  type PracticeConfig,
  type RunBlock,
  TempoSchema,
} from '@isochron/core/schema';
import { configuredStart, underWay } from '@isochron/core/strategy';
import { useEffect, useMemo } from 'react';
import { type UseFormReturn, useForm } from 'react-hook-form';
import { z } from 'zod';
import { useLightDay } from '../../api/light-day';
import { useSettings } from '../../api/settings';
import { useDescribe } from '../../app/use-describe';
import { saveInterrupted, useOutbox } from '../../recorder/outbox';
import { useBench } from '../../stores/bench';
import { usePracticeSession } from '../../stores/practice-session';
import { bpm } from '../../words';
import type { ConfigChoice } from './config-choice';

export const TemposSchema = z.object({ goalBpm: TempoSchema, startBpm: TempoSchema });
export type Tempos = z.infer<typeof TemposSchema>;

/** Goal and start of a take that is about to begin, and its beginning. */
export interface Beginning {
  form: UseFormReturn<Tempos>;
  /** As typed; null while it is none. */
  startBpm: number | null;
  /** Why it begins there. */
  startHelp: string;
  /** Keeps a goal that was typed. */
  keepGoal(): void;
  start(event?: React.BaseSyntheticEvent): Promise<void>;
}

const repetitionWords = (count: number) => `${count} ${count === 1 ? 'repetition' : 'repetitions'}`;

/** A take of this configuration that was broken off in this practice session, and is not stored yet: it goes on where it stood. */
const useBrokenOff = (config: PracticeConfig): LoopSnapshot | null => {
  const session = usePracticeSession((store) => store.session);
  const interrupted = useOutbox((outbox) => outbox.interrupted);
  const broken = session && underWay(session, config);
  return broken && interrupted.some(({ take }) => take.id === broken.takeId) ? broken : null;
};

/**
 * What a take is begun with: the tempos as typed, else as they follow from what is known.
 *
 * @param config as it is practised now, by the block at work where there is one.
 * @param own as it is stored.
 * @param change changes what is stored.
 * @param drills null while they are not there.
 */
export const useBeginning = (options: {
  passage: Passage;
  own: PracticeConfig;
  config: PracticeConfig;
  block: RunBlock | null;
  change: ConfigChoice['change'];
  drills: readonly Drill[] | null;
}): Beginning => {
  const { passage, own, config, block, change, drills } = options;
  const say = useDescribe();
  const { settings, loaded } = useSettings();
  const begin = useBench((bench) => bench.begin);
  const interrupted = useOutbox((outbox) => outbox.interrupted);
  const from = useBrokenOff(config);
  const ownGoalBpm = configuredGoalBpm(config);

  const form = useForm<Tempos>({
    resolver: zodResolver(TemposSchema),
    mode: 'onChange',
    defaultValues: { goalBpm: ownGoalBpm, startBpm: configuredStart(config, ownGoalBpm).bpm },
  });
  const { isDirty: isOwnStart } = form.getFieldState('startBpm', form.formState);
  const typedGoal = TempoSchema.safeParse(form.watch('goalBpm'));
  const isLight = useLightDay();
  const usual = block?.startBpm
    ? { bpm: block.startBpm, why: block.why }
    : configuredStart(config, typedGoal.success ? typedGoal.data : ownGoalBpm);
  const suggested = isLight ? lowerStart(usual) : usual;
  const suggestedBpm = from ? headlineBpm(from.tempo) : suggested.bpm;
  useEffect(() => {
    // What the player has not typed follows what is known by now.
    if (!isOwnStart) form.resetField('startBpm', { defaultValue: suggestedBpm });
  }, [form, isOwnStart, suggestedBpm]);
  useEffect(() => {
    form.resetField('goalBpm', { defaultValue: ownGoalBpm });
  }, [form, ownGoalBpm]);

  const start = useMemo(
    () =>
      form.handleSubmit(async (tempos) => {
        if (!loaded || !drills) return;
        if (tempos.goalBpm !== ownGoalBpm) change(goalChange(own, tempos.goalBpm));
        const left = from && interrupted.find(({ take }) => take.id === from.takeId);
        if (left) await saveInterrupted(left);
        await begin({
          passage,
          config: { ...config, goalBpm: tempos.goalBpm },
          drills,
          startBpm: tempos.startBpm,
          settings,
          purpose: block?.purpose ?? 'work',
          from: from && tempos.startBpm === headlineBpm(from.tempo) ? from : null,
        });
      }),
    [form, loaded, config, own, ownGoalBpm, change, from, interrupted, begin, passage, drills, settings, block],
  );
  const typedStart = TempoSchema.safeParse(Number(form.watch('startBpm')));
  return {
    form,
    startBpm: typedStart.success ? typedStart.data : null,
    startHelp: isOwnStart
      ? `Your own choice. Suggested: ${bpm(suggestedBpm)}.`
      : from
        ? `Goes on where it was broken off, after ${repetitionWords(from.repetitions)}.`
        : say(suggested.why),
    keepGoal: () => {
      const typed = TempoSchema.safeParse(Number(form.getValues('goalBpm')));
      if (typed.success && typed.data !== ownGoalBpm) change(goalChange(own, typed.data));
    },
    start,
  };
};
