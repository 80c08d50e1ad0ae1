import { Text } from '@chakra-ui/react';
import { clampBpm, playAlongReason, rotatedDrills, SLOWER_SHARE } from '@isochron/core/material';
import { configuredGoalBpm, type Selection } from '@isochron/core/planning';
import type { Drill, Passage } from '@isochron/core/schema';
import { configForBlock } from '@isochron/core/strategy';
import { useMemo, useState } from 'react';
import { useLocation } from 'react-router';
import { usePracticeConfig } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { useDescribe } from '../../app/use-describe';
import { useBench } from '../../stores/bench';
import { Strip } from '../../strip/Strip';
import { Notebook } from '../material/Notebook';
import { useDangerSpots } from '../material/use-danger-spots';
import { BeginHeader, TURN_S } from './BeginHeader';
import { ConfigPanel } from './ConfigPanel';
import { ConfigSentence, type ConfigTopic } from './ConfigSentence';
import { DrillList } from './DrillList';
import { KeyHints } from './KeyHints';
import { HEARD_BY } from './NothingHeard';
import { PainQuestion, usePainQuestion } from './PainQuestion';
import { Readiness } from './Readiness';
import { TempoFigures } from './TempoFigures';
import { useBeginning } from './use-beginning';
import { useBenchKeys } from './use-bench-keys';
import { useCountdown } from './use-countdown';
import { useDrills } from './use-drills';
import { usePlayAlong } from './use-play-along';
import { useBlockAtWork, useIsRunning, useRestS } from './use-run';

const KEY_HINTS = [
  { keyName: 'Enter', does: 'begin (or a pedal’s Page Down)' },
  { keyName: 'T M C H W', does: 'tempo plan, method, click, heard by, which bars' },
  { keyName: 'U', does: 'back to the usual' },
];

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
  const [open, setOpen] = useState<ConfigTopic['id'] | null>(useLocation().hash === HEARD_BY ? 'input' : null);
  const drill = drills[shownDrill] ?? (drills[0] as Drill);
  const goalBpm = configuredGoalBpm(config);
  const isStraight = drill.method.id === 'straight' && !drill.also;
  const dangers = useDangerSpots(isStraight ? drill.grid : null, goalBpm, passage.instrumentId);
  const spots = useMemo(() => new Set(dangers.map(({ index }) => index)), [dangers]);

  // The one that is shown comes first.
  const inOrder = useMemo(
    () => playAlong.drills && rotatedDrills(playAlong.drills, playAlong.drills.indexOf(drill)),
    [playAlong.drills, drill],
  );
  const beginning = useBeginning({
    passage,
    own,
    config,
    block,
    change,
    drills: inOrder,
  });
  const { form, startBpm, start } = beginning;
  const slower = () => {
    if (startBpm !== null) form.setValue('startBpm', clampBpm(Math.round(SLOWER_SHARE * startBpm)), { shouldDirty: true });
  };
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
      <TempoFigures passage={passage} config={own} drill={drill} beginning={beginning} />
      <ConfigSentence
        own={own}
        passage={passage}
        drill={drills[0] as Drill}
        config={config}
        change={change}
        open={open}
        onOpen={setOpen}
      />
      {open && (
        <ConfigPanel
          open={open}
          onClose={() => setOpen(null)}
          passage={passage}
          own={own}
          config={config}
          change={change}
          drills={drills}
        />
      )}
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
      <Readiness config={config} change={change} slower={slower} />
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
