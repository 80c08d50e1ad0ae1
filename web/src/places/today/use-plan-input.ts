import {
  type DayMinutes,
  dayMinutes,
  dueOf,
  fitForgetting,
  fitPassage,
  isKeptForWarmUp,
  lighterDay,
  openingsOf,
  type PlanInput,
  type PlanItem,
  practiceConfigOf,
  shortestSectionWith,
} from '@isochron/core/planning';
import {
  dayAt,
  dayIndex,
  localDay,
  now,
  type PassageSummary,
  type Practice,
  type PracticeConfig,
  practiceConfigId,
  type Settings,
} from '@isochron/core/schema';
import { configuredStart } from '@isochron/core/strategy';
import { max } from 'd3-array';
import { useMemo } from 'react';
import { useLightDay } from '../../api/light-day';
import { usePassages } from '../../api/queries/passages';
import { usePractice, usePracticeConfigs } from '../../api/queries/practice';
import { useHealth } from '../../api/queries/upkeep';
import { useSettings } from '../../api/settings';

/** So many days tell what is forgotten and what is due; a weak spot is worth a block for so many. */
const PLAN_LOOK_BACK_DAYS = 200;
const WEAK_DAYS = 21;
/** So many days tell where the edge is. */
const EDGE_DAYS = 21;
/** Longer than this it is music, unless it is a pattern. */
const MUSIC_BARS = 6;

const dayOf = (moment: string | undefined): string => (moment ? localDay(new Date(moment)) : '');

/** What may be practised, with all that is known of it. */
const itemsOf = (
  passages: readonly PassageSummary[],
  practiceConfigs: readonly PracticeConfig[],
  { days, weak }: Practice,
  settings: Settings,
  today: string,
): PlanItem[] => {
  const openings = openingsOf(days);
  const player = fitForgetting(openings);
  return passages.map((passage) => {
    const config = practiceConfigOf(practiceConfigs, passage, settings);
    const id = practiceConfigId(config);
    const own = days.filter((one) => practiceConfigId(one) === id);
    const ownOpenings = openings.filter((one) => one.configId === id);
    const spot = weak.find((one) => practiceConfigId(one) === id && dayIndex(today) - dayIndex(one.day) <= WEAK_DAYS);
    const section = spot?.spot.bar === undefined ? null : shortestSectionWith(spot.spot.bar, passage);
    const ofSection = section && practiceConfigOf(practiceConfigs, passage, settings, { sectionId: section.id });
    return {
      config,
      title: passage.title,
      isMusic: !passage.isPattern && passage.bars >= MUSIC_BARS,
      startBpm: configuredStart(config).bpm,
      bestCleanBpm: config.last?.summary.bestCleanBpm ?? null,
      edgeBpm: max(own, (one) => (dayIndex(today) - dayIndex(one.day) <= EDGE_DAYS ? one.bestCleanBpm : null)) ?? null,
      lastDay: own.at(-1)?.day ?? dayOf(config.last?.startedAt),
      due: dueOf(own, ownOpenings, fitPassage(ownOpenings, player), today),
      weak: spot?.spot ?? null,
      weakSection: section && {
        id: section.id,
        name: section.name,
        startBpm: configuredStart(ofSection?.last ? ofSection : config).bpm,
      },
      isWarmUp: isKeptForWarmUp(passage.tags),
    };
  });
};

/** Everything that today's plan is made of, but how long and what was left out; null until it is known. */
export const usePlanInput = (): {
  input: Omit<PlanInput, 'length' | 'leftOutBefore'> | null;
  length: DayMinutes;
  message: string;
} => {
  const today = localDay(now());
  const passages = usePassages();
  const practiceConfigs = usePracticeConfigs();
  const practice = usePractice({ from: dayAt(dayIndex(today) - PLAN_LOOK_BACK_DAYS) });
  const { settings, loaded } = useSettings();
  const health = useHealth();
  const isKnown = passages.isKnown && practiceConfigs.isKnown && practice.isKnown && loaded && !health.isPending;
  const { days } = practice.practice;
  const isDemo = health.data?.demo ?? false;
  const isLight = useLightDay();
  const length = useMemo(() => {
    const first = days[0]?.day;
    const playedMin = (day: string) =>
      first === undefined || day < first
        ? null
        : days.filter((one) => one.day === day).reduce((sum, one) => sum + one.playedS / 60, 0);
    const isFirst = first === undefined || first === today;
    const length = dayMinutes(today, settings.plan, playedMin, isFirst ? 'first-day' : isDemo ? 'demo' : null);
    return isLight ? lighterDay(length) : length;
  }, [today, settings.plan, days, isDemo, isLight]);
  const input = useMemo(
    () =>
      isKnown
        ? {
            day: today,
            settings: { ...settings.plan, breakAfterMin: settings.breakAfterMin },
            items: itemsOf(passages.passages, practiceConfigs.practiceConfigs, practice.practice, settings, today),
            played: days,
            isLight,
          }
        : null,
    [isKnown, isLight, today, settings, passages.passages, practiceConfigs.practiceConfigs, practice.practice, days],
  );
  return { input, length, message: passages.message || practiceConfigs.message || practice.message };
};
