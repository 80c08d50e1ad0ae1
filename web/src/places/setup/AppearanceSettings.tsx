import { Flex } from '@chakra-ui/react';
import type { NoteNaming } from '@isochron/core/material';
import type { Settings } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { ChoiceField } from '../../app/fields';

/** Note names, dates, and light or dark. */
export const AppearanceSettings = () => {
  const { settings, change } = useSettings();
  return (
    <Flex gap="34px" flexWrap="wrap">
      <ChoiceField<NoteNaming>
        label="Note names"
        value={settings.noteNaming}
        choices={[
          { value: 'british', name: 'crotchet, quaver, semiquaver' },
          { value: 'american', name: 'quarter, eighth, sixteenth' },
        ]}
        onChange={(noteNaming) => void change({ noteNaming })}
      />
      <ChoiceField<Settings['dates']>
        label="Dates"
        value={settings.dates}
        choices={[
          { value: 'day-first', name: 'day first' },
          { value: 'month-first', name: 'month first' },
        ]}
        onChange={(dates) => void change({ dates })}
      />
      <ChoiceField<Settings['appearance']>
        label="Appearance"
        value={settings.appearance}
        choices={[
          { value: 'system', name: 'as the system' },
          { value: 'paper', name: 'paper (light)' },
          { value: 'ink', name: 'ink (dark)' },
        ]}
        onChange={(appearance) => void change({ appearance })}
      />
    </Flex>
  );
};
