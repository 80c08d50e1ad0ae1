import type { Passage } from '../schema/passage';
import type { PracticeConfig } from '../schema/practice-config';
import type { Settings } from '../schema/settings';
import { practiceConfigOf } from './practice-config';

/** The share of its goal at which a configuration was clean last; 0 where it never was. */
const reached = ({ last, goalBpm }: PracticeConfig): number => (last?.summary.bestCleanBpm ?? 0) / goalBpm;

/**
 * What of a passage can be practised, as its page lists it: the whole, its sections with the one furthest from its goal first, for that is
 * where the time belongs, and what was practised by other marks.
 */
export const listedConfigs = (
  configs: readonly PracticeConfig[],
  passage: Passage,
  settings: Settings,
  variantId: string | undefined,
): PracticeConfig[] => {
  const whole = practiceConfigOf(configs, passage, settings, { variantId });
  return [
    whole,
    ...passage.sections
      .map(({ id }) => practiceConfigOf(configs, passage, settings, { sectionId: id, variantId }))
      .sort((a, b) => reached(a) - reached(b)),
    ...configs.filter((config) => config.passageId === passage.id && config.variantId !== whole.variantId),
  ];
};

/** What a configuration is called among those of its passage: its section, and its marks where there are several. */
export const configTitle = (passage: Passage, { variantId, sectionId }: PracticeConfig): string => {
  const section = passage.sections.find(({ id }) => id === sectionId)?.name;
  const marks = passage.variants.find(({ id }) => id === variantId)?.name;
  return [section ? `Section ${section}` : 'The whole', passage.variants.length > 1 && marks].filter(Boolean).join(', ');
};
