import { Flex } from '@chakra-ui/react';
import { HEARD_PROFILES, profileOf } from '@isochron/core/analysis';
import type { InputKind } from '@isochron/core/schema';
import { INSTRUMENTS } from '@isochron/core/simulation';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { useSettings } from '../../api/settings';
import { ChoiceField, NumberField } from '../../app/fields';
import { playerMessage } from '../../app/report-error';
import { INPUTS, inputOf } from '../../audio/inputs/inputs';
import { midiPorts } from '../../audio/inputs/midi';
import { VIRTUAL_PORT_ID } from '../../audio/inputs/virtual-midi-port';

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

/** The connected MIDI ports, or why there are none. */
const useMidiPorts = (wanted: boolean): { ports: MIDIInput[]; message: string } => {
  const [found, setFound] = useState<{ ports: MIDIInput[]; message: string }>({ ports: [], message: '' });
  useEffect(() => {
    if (!wanted) return;
    let access: MIDIAccess | null = null;
    const list = () => setFound({ ports: access ? [...access.inputs.values()] : [], message: '' });
    midiPorts().then(
      (answer) => {
        access = answer.access;
        access.addEventListener('statechange', list);
        list();
      },
      (error: Error) => setFound({ ports: [], message: playerMessage(error) }),
    );
    return () => access?.removeEventListener('statechange', list);
  }, [wanted]);
  return found;
};

/** Which input is heard, and how the simulated player plays. */
export const InputSettings = () => {
  const { settings, change } = useSettings();
  const { skill } = settings;
  const microphones = useMicrophones(settings.input === 'microphone');
  const midi = useMidiPorts(settings.input === 'midi');
  const playsItself = settings.input === 'simulated' || (settings.input === 'midi' && settings.midiPortId === VIRTUAL_PORT_ID);
  return (
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
      {settings.input === 'microphone' && (
        <ChoiceField
          label="Your instrument"
          help={profileOf(settings.profileId).about}
          value={settings.profileId}
          choices={HEARD_PROFILES.map(({ id, name }) => ({ value: id, name }))}
          onChange={(profileId) => void change({ profileId })}
        />
      )}
      {settings.input === 'midi' && (
        <ChoiceField
          label="Which MIDI port"
          help={midi.message || 'The virtual port is played by the simulated player.'}
          value={settings.midiPortId}
          choices={[
            { value: '', name: 'all that are connected' },
            ...midi.ports.map((port) => ({ value: port.id, name: port.name ?? 'MIDI port' })),
            { value: VIRTUAL_PORT_ID, name: 'the virtual MIDI port' },
          ]}
          onChange={(midiPortId) => void change({ midiPortId })}
        />
      )}
      {settings.input === 'simulated' && (
        <ChoiceField
          label="Its instrument"
          width="180px"
          value={settings.instrumentId}
          choices={INSTRUMENTS.map(({ id, name }) => ({ value: id, name }))}
          onChange={(instrumentId) => void change({ instrumentId })}
        />
      )}
      {playsItself && (
        <>
          <NumberField
            label="Its unsteadiness"
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
  );
};
