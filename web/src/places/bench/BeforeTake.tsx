import { Grid, Text } from '@chakra-ui/react';
import { dangerSpots, intervalMs, notesPerBeat, notesPerMinute, noteValueName, playAlongReason } from '@isochron/core/material';
import { configuredGoalBpm, type Selection } from '@isochron/core/planning';
import type { Drill, Passage } from '@isochron/core/schema';
import { configForBlock } from '@isochron/core/strategy';
import { useMemo, useState } from 'react';
import { usePracticeConfig } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { FormNumber } from '../../app/FormNumber';
import { useDescribe } from '../../app/use-describe';
import { useBench } from '../../stores/bench';
import { Strip } from '../../strip/Strip';
import { Notebook } from '../material/Notebook';
import { BeginHeader, TURN_S } from './BeginHeader';
import { ClickChoice } from './ClickChoice';
import { DrillList } from './DrillList';
import { InputChoice } from './InputChoice';
import { KeyHints } from './KeyHints';
import { MethodChoice } from './MethodChoice';
import { PainQuestion, usePainQuestion } from './PainQuestion';
import { PartChoice } from './PartChoice';
import { PlayAlongChoice } from './PlayAlongChoice';
import { Readiness } from './Readiness';
import { StrategyChoice } from './StrategyChoice';
import { useBeginning } from './use-beginning';
import { useBenchKeys } from './use-bench-keys';
import { useCountdown } from './use-countdown';
import { useDrills } from './use-drills';
import { usePlayAlong } from './use-play-along';
import { useBlockAtWork, useIsRunning, useRestS } from './use-run';

/** Longer bars are grouped like the first so many of their units. */
const MAX_UNITS = 12;

const KEY_HINTS = [
  { keyName: 'Enter', does: 'begin (or a pedal’s Page Down)' },
  { keyName: 'Esc', does: 'stop' },
  { keyName: '↑ ↓', does: 'tempo by your own choice' },
  { keyName: '1 2 3', does: 'how it felt: easy, working, tense' },
  { keyName: '0', does: 'it hurts: stop' },
];

/** How close together the notes of a drill are at a tempo, for the player. */
const closenessWords = (drill: Drill, startBpm: number): string => {
  const perBeat = notesPerBeat(drill.grid);
  const apartMs = intervalMs(startBpm, perBeat).toFixed(0);
  return `At the start the closest notes are ${apartMs} ms apart: ${notesPerMinute(startBpm, perBeat).toFixed(0)} a minute.`;
};

/** The Bench before a take: goal, start, strategy, method, input, and one key to begin. */
export const BeforeTake = ({ passage, part }: { passage: Passage; part: Selection }) => {
  const say = useDescribe();
  const { settings, loaded } = useSettings();
  const { config: own, change } = usePracticeConfig(passage, part);
  const block = useBlockAtWork(own);
  const config = useMemo(() => (block ? configForBlock(own, block) : own), [block, own]);
  const opening = useBench((bench) => bench.opening);
  const trouble = useBench((bench) => bench.trouble);
  const plain = useDrills(passage, config);
  const playAlong = usePlayAlong(plain, config, block !== null);
  const drills = playAlong.drills ?? plain;
  const [shownDrill, setShownDrill] = useState(0);
  const drill = drills[shownDrill] ?? (drills[0] as Drill);
  const goalBpm = configuredGoalBpm(config);
  const spots = useMemo(() => {
    const isStraight = drill.method.id === 'straight' && !drill.also;
    return isStraight ? new Set(dangerSpots(drill.grid, goalBpm).map(({ index }) => index)) : undefined;
  }, [drill, goalBpm]);

  const { form, startBpm, startHelp, keepGoal, start } = useBeginning({
    passage,
    own,
    config,
    block,
    change,
    drills: playAlong.drills,
  });
  const pain = usePainQuestion(start);
  const { begin } = pain;
  const acts = useMemo(() => ({ begin: () => void begin() }), [begin]);
  useBenchKeys(acts);
  const isRunning = useIsRunning(config);
  const restS = useRestS();
  const seconds = useCountdown(
    isRunning && loaded && !opening && !trouble && !pain.mustAsk,
    Math.max(TURN_S, restS),
    () => void start(),
  );

  return (
    <form onSubmit={(event) => void begin(event)} noValidate>
      <BeginHeader
        passage={passage}
        canBegin={playAlong.drills !== null}
        trouble={trouble || playAlong.trouble}
        seconds={seconds}
      />
      {pain.isAsked && <PainQuestion begin={begin} />}
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
          unit={`${noteValueName(passage.beatUnit, settings.noteNaming)}s a minute`}
          help={startBpm === null ? undefined : closenessWords(drill, startBpm)}
          onBlur={keepGoal}
        />
        <FormNumber form={form} name="startBpm" label="Start" help={startHelp} />
        <InputChoice opening={opening} />
        <PartChoice passage={passage} config={config} />
        <StrategyChoice config={config} change={change} />
        <MethodChoice config={config} change={change} drillCount={drills.length} />
        <PlayAlongChoice config={own} change={change} input={settings.input} />
        <ClickChoice config={config} change={change} barUnits={Math.min(MAX_UNITS, passage.meters[0]?.count ?? 4)} />
      </Grid>
      {drill.playAlong && startBpm !== null && (
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
      <KeyHints hints={KEY_HINTS} />
      <Readiness config={config} change={change} />
      <Notebook
        passageId={passage.id}
        bars={passage.bars}
        firstBarNumber={passage.firstBarNumber}
        about={passage.sections.find(({ id }) => id === config.sectionId) ?? null}
        readOnly
      />
      <Text marginTop="18px" color="quiet" fontSize="16px" maxWidth="80ch">
        Keep the click and the instrument moderately loud.
      </Text>
    </form>
  );
};
