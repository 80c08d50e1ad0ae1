import { Box, Flex, Grid, Heading, Text } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import {
  configForBlock,
  configuredGoalBpm,
  configuredStart,
  type Drill,
  dangerSpots,
  goalChange,
  headlineBpm,
  intervalMs,
  notesPerBeat,
  notesPerMinute,
  noteValueName,
  type Passage,
  playAlongReason,
  type Selection,
  TempoSchema,
  underWay,
} from '@isochron/core';
import { useEffect, useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useHealth, usePracticeConfig } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { FormNumber } from '../../app/FormNumber';
import { Notice } from '../../app/Notice';
import { useDescribe } from '../../app/use-describe';
import { saveInterrupted, useOutbox } from '../../recorder/outbox';
import { useBench } from '../../stores/bench';
import { usePracticeSession } from '../../stores/practice-session';
import { Strip } from '../../strip/Strip';
import { bpm } from '../../words';
import { Notebook } from '../material/Notebook';
import { ClickChoice } from './ClickChoice';
import { DrillList } from './DrillList';
import { InputChoice } from './InputChoice';
import { KeyHints } from './KeyHints';
import { MethodChoice } from './MethodChoice';
import { PartChoice } from './PartChoice';
import { PlayAlongChoice } from './PlayAlongChoice';
import { Readiness } from './Readiness';
import { RestReminder } from './RestReminder';
import { minutesWords, RunWords } from './RunWords';
import { StrategyChoice } from './StrategyChoice';
import { useBenchKeys } from './use-bench-keys';
import { useCountdown } from './use-countdown';
import { useDrills } from './use-drills';
import { usePlayAlong } from './use-play-along';
import { useBlockAtWork, useIsRunning, useRestS } from './use-run';

const TemposSchema = z.object({ goalBpm: TempoSchema, startBpm: TempoSchema });
type Tempos = z.infer<typeof TemposSchema>;

/** Between two blocks of a run: time to turn the page. */
const REST_S = 6;
/** Longer bars are grouped like the first so many of their units. */
const MAX_UNITS = 12;

/** The Bench before a take: goal, start, strategy, method, input, and one key to begin. */
export const BeforeTake = ({ passage, part }: { passage: Passage; part: Selection }) => {
  const say = useDescribe();
  const { settings, loaded } = useSettings();
  const { config: own, change } = usePracticeConfig(passage, part);
  const block = useBlockAtWork(own);
  const config = useMemo(() => (block ? configForBlock(own, block) : own), [block, own]);
  const ownGoalBpm = configuredGoalBpm(config);
  const { begin, opening, trouble } = useBench();
  const session = usePracticeSession((store) => store.session);
  const storage = useHealth().data?.storage ?? '';
  const interrupted = useOutbox((outbox) => outbox.interrupted);
  const plain = useDrills(passage, config);
  const playAlong = usePlayAlong(plain, config, block !== null);
  const drills = playAlong.drills ?? plain;
  const [shownDrill, setShownDrill] = useState(0);
  const drill = drills[shownDrill] ?? (drills[0] as Drill);
  const section = passage.sections.find(({ id }) => id === config.sectionId) ?? null;
  const isStraight = drill.method.id === 'straight' && !drill.also;
  const spots = useMemo(
    () => (isStraight ? new Set(dangerSpots(drill.grid, ownGoalBpm).map(({ index }) => index)) : undefined),
    [isStraight, drill, ownGoalBpm],
  );
  // A take of this that was broken off in this practice session goes on where it stood.
  const broken = session && underWay(session, config);
  const from = broken && interrupted.some(({ take }) => take.id === broken.takeId) ? broken : null;

  const form = useForm<Tempos>({
    resolver: zodResolver(TemposSchema),
    mode: 'onChange',
    defaultValues: { goalBpm: ownGoalBpm, startBpm: configuredStart(config, ownGoalBpm).bpm },
  });
  const { isDirty: isOwnStart } = form.getFieldState('startBpm', form.formState);
  const typedGoal = TempoSchema.safeParse(form.watch('goalBpm'));
  const goalBpm = typedGoal.success ? typedGoal.data : ownGoalBpm;
  const suggested = block?.startBpm ? { bpm: block.startBpm, why: block.why } : configuredStart(config, goalBpm);
  const suggestedBpm = from ? headlineBpm(from.tempo) : suggested.bpm;
  const startBpm = Number(form.watch('startBpm'));
  useEffect(() => {
    // What the player has not typed follows what is known by now.
    if (!isOwnStart) form.resetField('startBpm', { defaultValue: suggestedBpm });
  }, [form, isOwnStart, suggestedBpm]);
  useEffect(() => {
    form.resetField('goalBpm', { defaultValue: ownGoalBpm });
  }, [form, ownGoalBpm]);

  const start = useMemo(
    () =>
      form.handleSubmit(async (tempos) => {
        if (!loaded || !playAlong.drills) return;
        if (tempos.goalBpm !== ownGoalBpm) change(goalChange(own, tempos.goalBpm));
        const left = from && interrupted.find(({ take }) => take.id === from.takeId);
        if (left) await saveInterrupted(left);
        const goesOn = from && tempos.startBpm === headlineBpm(from.tempo) ? from : null;
        const aimed = { ...config, goalBpm: tempos.goalBpm };
        const purpose = block?.purpose ?? 'work';
        await begin({
          passage,
          config: aimed,
          drills: playAlong.drills,
          startBpm: tempos.startBpm,
          settings,
          purpose,
          from: goesOn,
        });
      }),
    [form, loaded, config, own, ownGoalBpm, change, from, interrupted, begin, passage, playAlong.drills, settings, block],
  );
  const acts = useMemo(() => ({ begin: () => void start() }), [start]);
  useBenchKeys(acts);

  const isRunning = useIsRunning(config);
  const restS = useRestS();
  const seconds = useCountdown(isRunning && loaded && !opening && !trouble, Math.max(REST_S, restS), () => void start());
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
          disabled={!playAlong.drills}
          loadingText="Opening the sound …"
          fontSize="34px"
          fontFamily="heading"
          padding="10px 36px"
        >
          Begin
        </Action>
      </Flex>
      <Notice>{trouble || playAlong.trouble}</Notice>
      <RunWords />
      {seconds !== null && (
        <Text role="status" fontSize="24px" fontFamily="heading" data-testid="countdown">
          {seconds > REST_S
            ? `A break: it goes on by itself in ${minutesWords(seconds)}. Enter goes on at once.`
            : `It begins by itself in ${seconds} s.`}
        </Text>
      )}
      <RestReminder />
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
            if (typedGoal.success && typedGoal.data !== ownGoalBpm) change(goalChange(own, typedGoal.data));
          }}
        />
        <FormNumber form={form} name="startBpm" label="Start" help={startHelp} />
        <InputChoice opening={opening} />
        <PartChoice passage={passage} config={config} />
        <StrategyChoice config={config} change={change} />
        <MethodChoice config={config} change={change} drillCount={drills.length} />
        <PlayAlongChoice config={own} change={change} input={settings.input} />
        <ClickChoice config={config} change={change} barUnits={Math.min(MAX_UNITS, passage.meters[0]?.count ?? 4)} />
      </Grid>
      {drill.playAlong && Number.isFinite(startBpm) && startBpm > 0 && (
        <Text color="quiet" maxWidth="80ch" data-testid="along">
          {say(playAlongReason(drill.playAlong, startBpm, null))}
        </Text>
      )}
      <DrillList drills={drills} shown={drills.indexOf(drill)} onShow={setShownDrill} />
      <Strip
        title={passage.title}
        grid={drill.grid}
        repetitions={[]}
        tolerance={settings.tolerance}
        calibrated={false}
        notationOnly
        spots={spots}
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
      <Readiness config={config} change={change} />
      <Notebook passageId={passage.id} bars={passage.bars} firstBarNumber={passage.firstBarNumber} about={section} readOnly />
      <Text marginTop="18px" color="quiet" fontSize="16px" maxWidth="80ch">
        Keep the click and the instrument moderately loud.
      </Text>
    </form>
  );
};
