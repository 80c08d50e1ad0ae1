import { Flex } from '@chakra-ui/react';
import { CLICK_SOUNDS } from '@isochron/core/material';
import type { ClickSound } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { ChoiceField, CountField, YesNoField } from '../../app/fields';
import { LevelField } from '../../app/LevelField';

const ACCENTS_DB = [0, 2, 4, 6, 9];

/** The click's sound, level and accent, and the level of what is played along with. */
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
      <LevelField
        label="Level of what you play along with"
        value={settings.playAlongLevel}
        onChange={(playAlongLevel) => void change({ playAlongLevel })}
      />
    </Flex>
  );
};
