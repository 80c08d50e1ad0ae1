import type { PracticeConfig, PracticeConfigChange } from '@isochron/core/schema';

/** A choice about how something is practised: the configuration as it is, and what changes it. */
export interface ConfigChoice {
  config: PracticeConfig;
  change(part: PracticeConfigChange): void;
}

/** A list as a field offers it. */
export const nameChoices = (list: readonly { id: string; name: string }[]) => list.map(({ id, name }) => ({ value: id, name }));
