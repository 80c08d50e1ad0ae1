import { Flex } from '@chakra-ui/react';
import { CLICK_SOUNDS } from '@isochron/core/material';
import type { AfterBreak, ClickSound } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { ChoiceField, CountField, YesNoField } from '../../app/fields';
import { LevelField } from '../../app/LevelField';
import { AFTER_BREAK_WORDS, AFTER_BREAKS } from '../bench/after-break';
import { SpeechSettings } from './SpeechSettings';

const ACCENTS_DB = [0, 2, 4, 6, 9];
const BREAKS_MIN = [0, 15, 20, 25, 30, 45];

/** The click's sound, level and accent, what announces decisions, when a rest is brought to mind, and where to go on after a break. */
export const ClickSettings = () => {
  const { settings, change } = useSettings();
  return (
    <Flex gap="18px 34px" flexWrap="wrap" align="flex-start">
      <ChoiceField<ClickSound>
        label="Sound of the click"
        value={settings.clickSound}
        choices={Object.entries(CLICK_SOUNDS).map(([id, { name }]) => ({ value: id as ClickSound, name }))}
        onChange={(clickSound) => void change({ clickSound })}
      />
      <LevelField label="Click level" value={settings.clickLevel} onChange={(clickLevel) => void change({ clickLevel })} />
      <CountField
        label="First of the bar"
        value={settings.accentDb}
        counts={ACCENTS_DB}
        name={(db) => (db ? `${db} dB louder` : 'as loud')}
        onChange={(accentDb) => void change({ accentDb })}
      />
      <YesNoField
        label="First of the bar higher"
        value={settings.accentHigher}
        onChange={(accentHigher) => void change({ accentHigher })}
      />
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
      <LevelField
        label="Level of what you play along with"
        value={settings.playAlongLevel}
        onChange={(playAlongLevel) => void change({ playAlongLevel })}
      />
      <CountField
        label="A rest is brought to mind"
        value={settings.breakAfterMin}
        counts={BREAKS_MIN}
        name={(minutes) => (minutes ? `after ${minutes} minutes` : 'never')}
        onChange={(breakAfterMin) => void change({ breakAfterMin })}
      />
      <YesNoField
        label="Mark the bar that is played"
        value={settings.marksBar}
        onChange={(marksBar) => void change({ marksBar })}
      />
      <ChoiceField<AfterBreak>
        label="When you break off, go on"
        value={settings.afterBreak}
        choices={AFTER_BREAKS.map((how) => ({ value: how, name: AFTER_BREAK_WORDS[how] }))}
        onChange={(afterBreak) => void change({ afterBreak })}
      />
    </Flex>
  );
};
