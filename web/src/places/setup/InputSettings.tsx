import { Flex, Text } from '@chakra-ui/react';
import { INSTRUMENTS, type InputKind } from '@isochron/core';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { ChoiceField, NumberField } from '../../app/fields';
import { INPUTS, inputOf } from '../../audio/inputs/inputs';
import { useSettings } from '../../stores/settings';

const SpreadSchema = z
  .number({ message: 'A number of milliseconds.' })
  .min(0, 'Not less than 0 ms.')
  .max(200, 'Not more than 200 ms.');
const PlacementSchema = z
  .number({ message: 'A number of milliseconds.' })
  .min(-200, 'Not under −200 ms.')
  .max(200, 'Not over 200 ms.');
const ShareSchema = z.number({ message: 'A share in per cent.' }).min(0, 'Not less than 0 %.').max(100, 'Not more than 100 %.');

const useMicrophones = (wanted: boolean): MediaDeviceInfo[] => {
  const [devices, setDevices] = useState<MediaDeviceInfo[]>([]);
  useEffect(() => {
    if (!wanted || !navigator.mediaDevices) return;
    const list = async () =>
      setDevices(
        (await navigator.mediaDevices.enumerateDevices()).filter(
          (device) => device.kind === 'audioinput' && device.deviceId !== '',
        ),
      );
    void list();
    navigator.mediaDevices.addEventListener('devicechange', list);
    return () => navigator.mediaDevices.removeEventListener('devicechange', list);
  }, [wanted]);
  return devices;
};

/** Which input is heard, and how the simulated player plays. */
export const InputSettings = () => {
  const { settings, change } = useSettings();
  const { skill } = settings;
  const microphones = useMicrophones(settings.input === 'microphone');
  return (
    <>
      <Flex gap="34px" flexWrap="wrap" align="flex-start">
        <ChoiceField<InputKind>
          label="Heard by"
          help={inputOf(settings.input).about}
          value={settings.input}
          choices={INPUTS.map((input) => ({ value: input.kind, name: input.name }))}
          onChange={(input) => void change({ input })}
        />
        {settings.input === 'microphone' && (
          <ChoiceField
            label="Which microphone"
            help={microphones.length ? undefined : 'Names appear once the browser has been allowed to listen.'}
            value={settings.microphoneId}
            choices={[
              { value: '', name: 'the system’s choice' },
              ...microphones.map((device) => ({ value: device.deviceId, name: device.label || 'microphone' })),
            ]}
            onChange={(microphoneId) => void change({ microphoneId })}
          />
        )}
        {settings.input === 'simulated' && (
          <>
            <ChoiceField
              label="Its instrument"
              width="180px"
              value={settings.instrumentId}
              choices={INSTRUMENTS.map(({ id, name }) => ({ value: id, name }))}
              onChange={(instrumentId) => void change({ instrumentId })}
            />
            <NumberField
              label="Its wobble"
              unit="ms"
              value={skill.spreadMs}
              schema={SpreadSchema}
              onChange={(spreadMs) => void change({ skill: { ...skill, spreadMs } })}
            />
            <NumberField
              label="Its placement"
              unit="ms"
              value={skill.placementMs}
              schema={PlacementSchema}
              onChange={(placementMs) => void change({ skill: { ...skill, placementMs } })}
            />
            <NumberField
              label="Missed notes"
              unit="%"
              value={skill.missedShare * 100}
              schema={ShareSchema}
              onChange={(missed) => void change({ skill: { ...skill, missedShare: missed / 100 } })}
            />
          </>
        )}
      </Flex>
      <Text color="quiet" marginTop="10px" maxWidth="80ch" fontSize="16px">
        Placement is shown as relative: the sound’s way through the computer is not yet calibrated. Spread and evenness need no
        calibration.
      </Text>
    </>
  );
};
