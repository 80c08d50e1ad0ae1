import { Box, Flex, NativeSelect, Text } from '@chakra-ui/react';
import { intervalMs, notesPerBeat, notesPerMinute, type TempoUnit } from '@isochron/core/material';
import type { Drill, Passage, PracticeConfig } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { CurveTempos } from './CurveTempos';
import { TempoFigure } from './TempoFigure';
import type { Beginning } from './use-beginning';
import { useTempoUnit } from './use-tempo-unit';

/** How close together the notes of a drill are at a tempo, for the player. */
const closenessWords = (drill: Drill, startBpm: number): string => {
  const perBeat = notesPerBeat(drill.grid);
  const apartMs = intervalMs(startBpm, perBeat).toFixed(0);
  return `At the start the closest notes are ${apartMs} ms apart: ${notesPerMinute(startBpm, perBeat).toFixed(0)} a minute.`;
};

interface UnitProps {
  units: readonly TempoUnit[];
  unit: TempoUnit;
  onChange(id: string): void;
}

/** What both figures count in a minute. */
const UnitChoice = ({ units, unit, onChange }: UnitProps) => (
  <Flex align="center" gap="6px" marginTop="6px" color="quiet" fontSize="15px">
    <NativeSelect.Root width="auto" size="sm">
      <NativeSelect.Field
        aria-label="Tempo in"
        value={unit.id}
        onChange={({ target }) => onChange(target.value)}
        fontSize="15px"
        color="ink"
        borderColor="rule"
        borderRadius="control"
      >
        {units.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
    a minute
  </Flex>
);

interface Props {
  passage: Passage;
  config: PracticeConfig;
  drill: Drill;
  beginning: Beginning;
}

/** Where it begins and where it leads, as two large figures in the unit that the player counts in. */
export const TempoFigures = ({ passage, config, drill, beginning }: Props) => {
  const { form, startBpm, startHelp, keepGoal } = beginning;
  const { change } = useSettings();
  const { units, unit } = useTempoUnit(passage);
  return (
    <>
      <Flex gap="10px 36px" flexWrap="wrap" align="flex-start" marginTop="14px">
        <Box>
          <TempoFigure
            form={form}
            name="startBpm"
            label="Start"
            tapLabel="tap in the first tempo"
            unit={unit}
            help={startHelp}
          />
          <CurveTempos
            config={config}
            onChoose={(tempo) => form.setValue('startBpm', tempo, { shouldDirty: true, shouldValidate: true })}
          />
        </Box>
        <Text
          aria-hidden
          display={{ base: 'none', md: 'block' }}
          fontFamily="heading"
          fontSize="56px"
          color="quiet"
          alignSelf="center"
        >
          →
        </Text>
        <Box>
          <TempoFigure
            form={form}
            name="goalBpm"
            label="Goal"
            tapLabel="tap in the tempo that you are after"
            unit={unit}
            onKeep={keepGoal}
          />
          <UnitChoice units={units} unit={unit} onChange={(tempoUnit) => change({ tempoUnit })} />
        </Box>
      </Flex>
      {startBpm !== null && (
        <Text color="quiet" fontSize="15px">
          {closenessWords(drill, startBpm)}
        </Text>
      )}
    </>
  );
};
