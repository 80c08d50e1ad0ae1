import { Box, Field, Flex, Input, Link, Progress, Text } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import { HEARD_PROFILES, profileOf } from '@isochron/core/analysis';
import { TempoSchema } from '@isochron/core/schema';
import { useRef, useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { Link as RouterLink } from 'react-router';
import { z } from 'zod';
import { getPassage } from '../../api/client';
import { usePassages } from '../../api/queries/passages';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { FormNumber } from '../../app/FormNumber';
import { ChoiceField } from '../../app/fields';
import { labelStyle } from '../../app/label-style';
import { Notice } from '../../app/Notice';
import { PageTitle } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { type Imported, importFile } from '../../recorder/import-file';

const CLICKS = [
  { value: 'with', name: 'with a click in headphones' },
  { value: 'without', name: 'without a click' },
] as const;

const NO_FILE = 'Choose a file first: a WAV, AIFF or CAF, a Standard MIDI File, or any other sound that this browser plays.';

const FormSchema = z.object({
  file: z.instanceof(File, { message: NO_FILE }),
  passageId: z.string(),
  tempoBpm: TempoSchema,
  profileId: z.string(),
  click: z.enum(['with', 'without']),
});
type Form = z.infer<typeof FormSchema>;

/** Measures a file that was recorded elsewhere, and keeps it as a take. */
export const ImportPage = () => {
  const { passages } = usePassages();
  const { settings } = useSettings();
  const [share, setShare] = useState<number | null>(null);
  const [trouble, setTrouble] = useState('');
  const [imported, setImported] = useState<Imported | null>(null);
  const stop = useRef<AbortController | null>(null);
  const form = useForm<Form>({
    resolver: zodResolver(FormSchema),
    defaultValues: { passageId: '', tempoBpm: 80, profileId: settings.profileId, click: 'with' },
  });
  const { control, formState } = form;

  const measure = form.handleSubmit(async ({ file, passageId, tempoBpm, profileId, click }) => {
    const chosen = passages.find((one) => one.id === passageId) ?? passages[0];
    if (!chosen) return;
    const controller = new AbortController();
    stop.current = controller;
    setTrouble('');
    setImported(null);
    setShare(0);
    try {
      const passage = await getPassage(chosen.id);
      const choice = { file, passage, tempoBpm, profileId, settings, withoutClick: click === 'without' };
      setImported(await importFile(choice, controller.signal, setShare));
    } catch (error) {
      if ((error as Error).name !== 'AbortError') setTrouble(playerMessage(error));
    } finally {
      setShare(null);
    }
  });

  return (
    <form onSubmit={(event) => void measure(event)} noValidate>
      <PageTitle title="Measure a file">
        A recording or a MIDI file from elsewhere, measured against a passage and a tempo, and kept in the Ledger.
      </PageTitle>
      <Flex gap="18px 30px" flexWrap="wrap" align="flex-start">
        <Controller
          control={control}
          name="file"
          render={({ field: { onChange, onBlur, name, ref } }) => (
            <Field.Root invalid={formState.errors.file !== undefined} width="auto" maxWidth="100%">
              <Field.Label {...labelStyle}>File</Field.Label>
              <Input
                ref={ref}
                name={name}
                type="file"
                accept=".wav,.aif,.aiff,.caf,.mid,.midi,audio/*,video/*"
                width="340px"
                maxWidth="100%"
                padding="6px"
                borderColor="quiet"
                borderRadius="control"
                onBlur={onBlur}
                onChange={(event) => onChange(event.target.files?.[0])}
              />
              <Field.ErrorText role="alert" color="ink" fontSize="15px" fontWeight="600" maxWidth="340px">
                {formState.errors.file && NO_FILE}
              </Field.ErrorText>
            </Field.Root>
          )}
        />
        <Controller
          control={control}
          name="passageId"
          render={({ field: { value, onChange } }) => (
            <ChoiceField
              label="Passage"
              value={value || (passages[0]?.id ?? '')}
              choices={passages.map((one) => ({ value: one.id, name: one.title }))}
              onChange={onChange}
            />
          )}
        />
        <FormNumber form={form} name="tempoBpm" label="Tempo" />
        <Controller
          control={control}
          name="profileId"
          render={({ field: { value, onChange } }) => (
            <ChoiceField
              label="Instrument"
              help={profileOf(value).about}
              value={value}
              choices={HEARD_PROFILES.map(({ id, name }) => ({ value: id, name }))}
              onChange={onChange}
            />
          )}
        />
        <Controller
          control={control}
          name="click"
          render={({ field: { value, onChange } }) => (
            <ChoiceField<Form['click']> label="It was played" value={value} choices={CLICKS} onChange={onChange} />
          )}
        />
      </Flex>
      <Text color="quiet" maxWidth="80ch" marginY="14px" fontSize="16px">
        One or more repetitions, with anything between them. The click itself must not be heard in the file. Nothing leaves this
        computer.
      </Text>
      {share === null ? (
        <Action type="submit">Measure it</Action>
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
    </form>
  );
};
