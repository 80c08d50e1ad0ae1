import { Field, Flex, Input, Text } from '@chakra-ui/react';
import { HEARD_PROFILES } from '@isochron/core/analysis';
import { BUILT_IN_INSTRUMENTS, instrumentOf, pitch } from '@isochron/core/material';
import { type Clef, ClefSchema, InstrumentSchema } from '@isochron/core/schema';
import { useState } from 'react';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { labelStyle } from '../../app/label-style';

/** The instrument that the player plays, among ready ones and the player's own. */
export const InstrumentSettings = () => {
  const { settings, change } = useSettings();
  const plays = instrumentOf(settings.playsId, settings.instruments);
  return (
    <>
      <Flex gap="20px 34px" flexWrap="wrap" align="flex-end">
        <ChoiceField
          label="I play"
          width="260px"
          value={plays.id}
          choices={[...settings.instruments, ...BUILT_IN_INSTRUMENTS].map(({ id, name }) => ({ value: id, name }))}
          onChange={(playsId) => {
            const { profileId } = instrumentOf(playsId, settings.instruments);
            void change({ playsId, ...(profileId === 'any' ? {} : { profileId }) });
          }}
        />
        <Text color="quiet" fontSize="16px" paddingBottom="8px">
          {plays.transposition === 0
            ? 'Sounds as it is written.'
            : `Sounds ${Math.abs(plays.transposition)} semitones ${plays.transposition < 0 ? 'lower' : 'higher'} than it is written.`}
          {plays.strings.length > 0 && ` Strings: ${plays.strings.map(({ name }) => name).join(', ')}.`}
        </Text>
        {settings.instruments.some(({ id }) => id === plays.id) && (
          <Action
            quiet
            onClick={() =>
              void change({ playsId: 'any', instruments: settings.instruments.filter(({ id }) => id !== plays.id) })
            }
          >
            Take it off the list
          </Action>
        )}
      </Flex>
      <OwnInstrument />
    </>
  );
};

const FIELDS = [
  { key: 'name', label: 'Name', width: '180px', hint: 'my instrument' },
  { key: 'lowest', label: 'Lowest, as written', width: '90px', hint: 'E3' },
  { key: 'highest', label: 'Highest', width: '90px', hint: 'G6' },
  { key: 'transposition', label: 'Semitones to the sounding pitch', width: '90px', hint: '-2' },
  { key: 'strings', label: 'Strings, from the lowest', width: '200px', hint: 'G3 D4 A4 E5, or none' },
] as const;

/** An instrument of one's own. */
const OwnInstrument = () => {
  const { settings, change } = useSettings();
  const [values, setValues] = useState<Record<string, string>>({});
  const [clef, setClef] = useState<Clef>('treble');
  const [profileId, setProfileId] = useState('any');
  const [trouble, setTrouble] = useState('');
  const add = () => {
    try {
      const strings = (values.strings ?? '').split(/[\s,]+/).filter(Boolean);
      const instrument = InstrumentSchema.parse({
        id: `own-${crypto.randomUUID().slice(0, 8)}`,
        name: values.name?.trim(),
        profileId,
        clefs: [clef],
        transposition: Number(values.transposition || 0),
        lowest: pitch(values.lowest ?? ''),
        highest: pitch(values.highest ?? ''),
        strings: strings.map((one, k) => ({ name: String(strings.length - k), pitch: pitch(one) })),
        marks: ['finger', 'hand', 'stick', 'stroke', 'string', 'breath', 'sign', 'difficult'],
      });
      void change({ instruments: [...settings.instruments, instrument], playsId: instrument.id });
      setValues({});
      setTrouble('');
    } catch {
      setTrouble('Give it a name and its lowest and highest note, like E3 and G6; strings like G3 D4 A4 E5.');
    }
  };
  return (
    <details style={{ marginTop: '14px' }}>
      <summary style={{ cursor: 'pointer' }}>Another instrument</summary>
      <Flex gap="14px 20px" flexWrap="wrap" align="flex-end" marginTop="10px">
        {FIELDS.map(({ key, label, width, hint }) => (
          <Field.Root key={key} width="auto">
            <Field.Label {...labelStyle}>{label}</Field.Label>
            <Input
              value={values[key] ?? ''}
              placeholder={hint}
              width={width}
              borderColor="quiet"
              onChange={(event) => setValues({ ...values, [key]: event.target.value })}
            />
          </Field.Root>
        ))}
        <ChoiceField<Clef>
          label="Clef"
          width="140px"
          value={clef}
          choices={ClefSchema.options.map((value) => ({ value, name: value }))}
          onChange={setClef}
        />
        <ChoiceField
          label="Sound"
          width="200px"
          value={profileId}
          choices={HEARD_PROFILES.map(({ id, name }) => ({ value: id, name }))}
          onChange={setProfileId}
        />
        <Action quiet onClick={add}>
          Put it on the list
        </Action>
      </Flex>
      <Text role="status" fontWeight="600">
        {trouble}
      </Text>
    </details>
  );
};
