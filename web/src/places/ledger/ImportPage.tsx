import { Box, Flex, Input, Link, Progress, Text } from '@chakra-ui/react';
import { HEARD_PROFILES, profileOf, TempoSchema } from '@isochron/core';
import { useRef, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { Action } from '../../app/Action';
import { ChoiceField, NumberField } from '../../app/fields';
import { Notice, PageTitle } from '../../app/Page';
import { type Imported, importFile } from '../../recorder/import-file';
import { useLibrary } from '../../stores/library';
import { useSettings } from '../../stores/settings';

const CLICKS = [
  { value: 'with', name: 'with a click in headphones' },
  { value: 'without', name: 'without a click' },
] as const;

/** Measures a file that was recorded elsewhere, and keeps it as a take. */
export const ImportPage = () => {
  const exercises = useLibrary((library) => library.exercises);
  const settings = useSettings((store) => store.settings);
  const [file, setFile] = useState<File | null>(null);
  const [chosen, setChosen] = useState('');
  const [tempoBpm, setTempoBpm] = useState(80);
  const [profileId, setProfileId] = useState(settings.profileId);
  const [click, setClick] = useState<(typeof CLICKS)[number]['value']>('with');
  const [share, setShare] = useState<number | null>(null);
  const [trouble, setTrouble] = useState('');
  const [imported, setImported] = useState<Imported | null>(null);
  const stop = useRef<AbortController | null>(null);
  const exercise = exercises.find((one) => one.id === chosen) ?? exercises[0];

  const measure = async () => {
    if (!file || !exercise) {
      setTrouble('Choose a file first: a WAV, a Standard MIDI File, or any other sound that this browser plays.');
      return;
    }
    const controller = new AbortController();
    stop.current = controller;
    setTrouble('');
    setImported(null);
    setShare(0);
    try {
      const choice = { file, exercise, tempoBpm, profileId, tolerance: settings.tolerance, withoutClick: click === 'without' };
      setImported(await importFile(choice, controller.signal, setShare));
    } catch (error) {
      if ((error as Error).name !== 'AbortError') setTrouble((error as Error).message);
    } finally {
      setShare(null);
    }
  };

  return (
    <>
      <PageTitle title="Measure a file">
        A recording or a MIDI file from elsewhere, measured against an exercise and a tempo, and kept in the Ledger.
      </PageTitle>
      <Flex gap="30px" flexWrap="wrap" align="flex-start">
        <Box>
          <label htmlFor="file-to-measure" style={{ display: 'block', fontSize: '16px', fontWeight: 600, marginBottom: '6px' }}>
            File
          </label>
          <Input
            id="file-to-measure"
            type="file"
            accept=".wav,.mid,.midi,audio/*"
            width="340px"
            padding="6px"
            borderColor="quiet"
            borderRadius="control"
            onChange={(event) => setFile(event.target.files?.[0] ?? null)}
          />
        </Box>
        <ChoiceField
          label="Exercise"
          value={exercise?.id ?? ''}
          choices={exercises.map((one) => ({ value: one.id, name: one.title }))}
          onChange={setChosen}
        />
        <NumberField label="Tempo" value={tempoBpm} schema={TempoSchema} onChange={setTempoBpm} />
        <ChoiceField
          label="Instrument"
          help={profileOf(profileId).about}
          value={profileId}
          choices={HEARD_PROFILES.map(({ id, name }) => ({ value: id, name }))}
          onChange={setProfileId}
        />
        <ChoiceField<(typeof CLICKS)[number]['value']>
          label="It was played"
          value={click}
          choices={CLICKS}
          onChange={setClick}
        />
      </Flex>
      <Text color="quiet" maxWidth="80ch" marginY="14px" fontSize="16px">
        One or more repetitions, with anything between them. The click itself must not be heard in the file. Nothing leaves this
        computer.
      </Text>
      {share === null ? (
        <Action onClick={() => void measure()}>Measure it</Action>
      ) : (
        <Flex gap="20px" align="center">
          <Progress.Root value={Math.round(share * 100)} width="300px" size="sm">
            <Progress.Label fontSize="16px">Listening to the file …</Progress.Label>
            <Progress.Track background="rule">
              <Progress.Range background="now" />
            </Progress.Track>
          </Progress.Root>
          <Action quiet onClick={() => stop.current?.abort()}>
            Stop
          </Action>
        </Flex>
      )}
      <Notice>{trouble}</Notice>
      {imported && (
        <Box role="status" marginTop="18px" fontSize="20px">
          {imported.take.repetitions.length === 1
            ? 'One repetition was found. '
            : `${imported.take.repetitions.length} repetitions were found. `}
          {imported.notes.join(' ')}{' '}
          <Link asChild color="now" textDecoration="underline">
            <RouterLink to={`/ledger/${imported.take.id}`}>See what it came to</RouterLink>
          </Link>
        </Box>
      )}
    </>
  );
};
