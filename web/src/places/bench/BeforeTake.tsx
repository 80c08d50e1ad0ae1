import { Box, Flex, Grid, Heading, Text } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import {
  CLICK_PLANS,
  type ClickPlan,
  type Course,
  type CourseChange,
  headlineBpm,
  intervalMs,
  METHODS,
  methodOf,
  notesPerBeat,
  notesPerMinute,
  noteValueName,
  optionsOf,
  type Passage,
  SCHOOLS,
  schoolOf,
  startTempo,
  TempoSchema,
  underWay,
} from '@isochron/core';
import { useEffect, useMemo } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useCourse, useHealth } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { FormNumber } from '../../app/FormNumber';
import { ChoiceField } from '../../app/fields';
import { OptionFields } from '../../app/OptionFields';
import { Notice } from '../../app/Page';
import { usePageKeys } from '../../app/use-page-keys';
import { useSay } from '../../app/use-say';
import { saveInterrupted, useOutbox } from '../../recorder/outbox';
import { useBench } from '../../stores/bench';
import { useSitting } from '../../stores/sitting';
import { Strip } from '../../strip/Strip';
import { bpm } from '../../words';
import { InputChoice } from './InputChoice';
import { KeyHints } from './KeyHints';
import { useDrill } from './use-drill';

const TemposSchema = z.object({ goalBpm: TempoSchema, startBpm: TempoSchema });
type Tempos = z.infer<typeof TemposSchema>;

const nameChoices = (list: readonly { id: string; name: string }[]) => list.map(({ id, name }) => ({ value: id, name }));

/** School, method and click of a course, with what each lets one choose. */
const CourseChoices = ({ course, change }: { course: Course; change(part: CourseChange): void }) => {
  const say = useSay();
  const school = schoolOf(course.schoolId);
  const method = methodOf(course.methodId);
  const standing = course.schools[school.id];
  const parameters = course.methodParameters[method.id] ?? {};
  return (
    <>
      <ChoiceField
        label="Tempo school"
        help={school.about}
        width="100%"
        value={school.id}
        choices={nameChoices(SCHOOLS)}
        onChange={(schoolId) => change({ schoolId })}
      />
      <OptionFields
        fields={school.fields}
        values={optionsOf(school, standing?.options)}
        onChange={(key, value) => {
          change({ schoolOptions: { [school.id]: { ...standing?.options, [key]: value } } });
        }}
      />
      <ChoiceField
        label="Practice method"
        help={method.about}
        width="100%"
        value={method.id}
        choices={nameChoices(METHODS)}
        onChange={(methodId) => change({ methodId })}
      />
      <OptionFields
        fields={method.fields}
        values={method.parameters.parse(parameters)}
        onChange={(key, value) => change({ methodParameters: { [method.id]: { ...parameters, [key]: value } } })}
      />
      <ChoiceField<ClickPlan['kind']>
        label="Click"
        help={say({ code: 'count-in', values: { bars: course.click.countInBars } })}
        width="100%"
        value={course.click.kind}
        choices={CLICK_PLANS.map(({ kind, name }) => ({ value: kind, name }))}
        onChange={(kind) => change({ click: { ...course.click, kind } })}
      />
    </>
  );
};

/** The Bench before a take: goal, start, school, method, input, and one key to begin. */
export const BeforeTake = ({ passage }: { passage: Passage }) => {
  const say = useSay();
  const { settings, loaded } = useSettings();
  const { course, change } = useCourse(passage);
  const { begin, opening, trouble } = useBench();
  const sitting = useSitting((store) => store.sitting);
  const storage = useHealth().data?.storage ?? '';
  const interrupted = useOutbox((outbox) => outbox.interrupted);
  const drill = useDrill(passage, course);
  // A take of this that was broken off in this sitting goes on where it stood.
  const broken = sitting && underWay(sitting, course);
  const from = broken && interrupted.some(({ take }) => take.id === broken.takeId) ? broken : null;

  const form = useForm<Tempos>({
    resolver: zodResolver(TemposSchema),
    mode: 'onChange',
    defaultValues: {
      goalBpm: course.goalBpm,
      startBpm: startTempo(course.goalBpm, course.last?.closing ?? null).bpm,
    },
  });
  const { isDirty: isOwnStart } = form.getFieldState('startBpm', form.formState);
  const typedGoal = TempoSchema.safeParse(form.watch('goalBpm'));
  const goalBpm = typedGoal.success ? typedGoal.data : course.goalBpm;
  const suggested = startTempo(goalBpm, course.last?.closing ?? null);
  const suggestedBpm = from ? headlineBpm(from.tempo) : suggested.bpm;
  const startBpm = Number(form.watch('startBpm'));
  useEffect(() => {
    // What the player has not typed follows what is known by now.
    if (!isOwnStart) form.resetField('startBpm', { defaultValue: suggestedBpm });
  }, [form, isOwnStart, suggestedBpm]);
  useEffect(() => {
    form.resetField('goalBpm', { defaultValue: course.goalBpm });
  }, [form, course.goalBpm]);

  const start = useMemo(
    () =>
      form.handleSubmit(async (tempos) => {
        if (!loaded) return;
        if (tempos.goalBpm !== course.goalBpm) change({ goalBpm: tempos.goalBpm });
        const left = from && interrupted.find(({ take }) => take.id === from.takeId);
        if (left) await saveInterrupted(left);
        const goesOn = from && tempos.startBpm === headlineBpm(from.tempo) ? from : null;
        const aimed = { ...course, goalBpm: tempos.goalBpm };
        await begin({ passage, course: aimed, drill, startBpm: tempos.startBpm, settings, from: goesOn });
      }),
    [form, loaded, course, change, from, interrupted, begin, passage, drill, settings],
  );
  const keys = useMemo(() => ({ Enter: () => void start(), PageDown: () => void start() }), [start]);
  usePageKeys(keys);

  const perBeat = notesPerBeat(drill.grid);
  const unit = noteValueName(passage.beatUnit, settings.noteNaming);
  const startHelp = isOwnStart
    ? `Your own choice. Suggested: ${bpm(suggestedBpm)}.`
    : from
      ? `Goes on where it was broken off, after ${from.repetitions} ${from.repetitions === 1 ? 'repetition' : 'repetitions'}.`
      : say(suggested.why);
  return (
    <form onSubmit={(event) => void start(event)} noValidate>
      <Flex justify="space-between" align="flex-end" gap="16px 30px" flexWrap="wrap">
        <Box maxWidth="560px">
          <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize={{ base: '30px', md: '40px' }} lineHeight="1.15">
            {passage.title}
          </Heading>
          <Text color="quiet">{passage.about}</Text>
        </Box>
        <Action
          type="submit"
          loading={opening}
          loadingText="Opening the sound …"
          fontSize="34px"
          fontFamily="heading"
          padding="10px 36px"
        >
          Begin
        </Action>
      </Flex>
      <Notice>{trouble}</Notice>
      <Notice>{storage}</Notice>
      {settings.input === 'simulated' && (
        <Text borderLeft="4px solid" borderColor="now" paddingLeft="14px" marginTop="14px" fontSize="18px">
          The simulated player plays for you: no instrument is needed. To be heard yourself, choose the microphone under “Heard
          by”.
        </Text>
      )}
      <Grid
        templateColumns={{ base: 'minmax(0, 1fr)', sm: 'repeat(auto-fill, minmax(230px, 1fr))' }}
        gap="18px 34px"
        marginTop="22px"
        marginBottom="12px"
        alignItems="start"
      >
        <FormNumber
          form={form}
          name="goalBpm"
          label="Goal"
          unit={`${unit}s a minute`}
          help={
            Number.isFinite(startBpm) && startBpm > 0
              ? `At the start the closest notes are ${intervalMs(startBpm, perBeat).toFixed(0)} ms apart: ${notesPerMinute(startBpm, perBeat).toFixed(0)} a minute.`
              : undefined
          }
          onBlur={() => {
            if (typedGoal.success && typedGoal.data !== course.goalBpm) change({ goalBpm: typedGoal.data });
          }}
        />
        <FormNumber form={form} name="startBpm" label="Start" help={startHelp} />
        <InputChoice opening={opening} />
        <CourseChoices course={course} change={change} />
      </Grid>
      <Strip
        title={passage.title}
        grid={drill.grid}
        repetitions={[]}
        tolerance={settings.tolerance}
        calibrated={false}
        notationOnly
      />
      <KeyHints
        hints={[
          { keyName: 'Enter', does: 'begin (or a pedal’s Page Down)' },
          { keyName: 'Esc', does: 'stop' },
          { keyName: '↑ ↓', does: 'tempo by your own choice' },
          { keyName: '1 2 3', does: 'how it felt: easy, working, tense' },
          { keyName: '0', does: 'it hurts: stop' },
        ]}
      />
      <Text marginTop="18px" color="quiet" fontSize="16px" maxWidth="80ch">
        Before you begin: do you know the notes and the rhythm, is the fingering settled, and can you get through it at some
        tempo without stopping? If not, learn it first, slower or in smaller pieces. Keep the click and the instrument
        moderately loud.
      </Text>
    </form>
  );
};
