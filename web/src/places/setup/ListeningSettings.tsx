import { Flex } from '@chakra-ui/react';
import type { AfterBreak } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { ChoiceField, CountField, YesNoField } from '../../app/fields';
import { LevelField } from '../../app/LevelField';
import { AFTER_BREAK_WORDS, AFTER_BREAKS } from '../bench/after-break';
import { SpeechSettings } from './SpeechSettings';

const BREAKS_MIN = [0, 15, 20, 25, 30, 45];

/** What is heard and seen while one plays: decisions by sound and speech, the bar, rests, and where to go on after a break. */
export const ListeningSettings = () => {
  const { settings, change } = useSettings();
  return (
    <Flex gap="18px 34px" flexWrap="wrap" align="flex-start">
      <YesNoField
        label="Announce each decision by a sound"
        value={settings.announce}
        onChange={(announce) => void change({ announce })}
      />
      <SpeechSettings />
      <LevelField
        label="Level of the announcements"
        value={settings.cueLevel}
        onChange={(cueLevel) => void change({ cueLevel })}
      />
      <YesNoField
        label="Mark the bar that is played"
        value={settings.marksBar}
        onChange={(marksBar) => void change({ marksBar })}
      />
      <YesNoField label="Count on until I begin" value={settings.waits} onChange={(waits) => void change({ waits })} />
      <ChoiceField<AfterBreak>
        label="When you break off, go on"
        value={settings.afterBreak}
        choices={AFTER_BREAKS.map((how) => ({ value: how, name: AFTER_BREAK_WORDS[how] }))}
        onChange={(afterBreak) => void change({ afterBreak })}
      />
      <CountField
        label="Remind me to rest"
        value={settings.breakAfterMin}
        counts={BREAKS_MIN}
        name={(minutes) => (minutes ? `after ${minutes} minutes` : 'never')}
        onChange={(breakAfterMin) => void change({ breakAfterMin })}
      />
    </Flex>
  );
};
