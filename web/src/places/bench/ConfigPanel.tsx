import { Box, Flex } from '@chakra-ui/react';
import type { Drill, Passage, PracticeConfig } from '@isochron/core/schema';
import { type ReactNode, useEffect, useRef } from 'react';
import { useSettings } from '../../api/settings';
import { Fields } from '../../app/fields';
import { useBench } from '../../stores/bench';
import { ClickChoice } from './ClickChoice';
import { CONFIG_TOPICS, type ConfigTopic } from './ConfigSentence';
import type { ConfigChoice } from './config-choice';
import { InputChoice } from './InputChoice';
import { MethodChoice } from './MethodChoice';
import { PartChoice } from './PartChoice';
import { PlayAlongChoice } from './PlayAlongChoice';
import { StrategyChoice } from './StrategyChoice';

/** Longer bars are grouped like the first so many of their units. */
const MAX_UNITS = 12;

interface PanelProps extends ConfigChoice {
  passage: Passage;
  /** As it is stored, whatever block is at work. */
  own: PracticeConfig;
  /** What is played in turn. */
  drills: readonly Drill[];
}

const SoundPanel = ({ passage, own, config, change, drills }: PanelProps) => {
  const { settings } = useSettings();
  return (
    <>
      <ClickChoice
        config={config}
        change={change}
        suited={(drills[0] as Drill).click}
        barUnits={Math.min(MAX_UNITS, passage.meters[0]?.count ?? 4)}
      />
      <Fields>
        <PlayAlongChoice config={own} change={change} input={settings.input} />
      </Fields>
    </>
  );
};

const HeardPanel = () => <InputChoice opening={useBench((bench) => bench.opening)} />;

/** What each part of the sentence opens. */
const PANELS: Record<ConfigTopic['id'], (props: PanelProps) => ReactNode> = {
  bars: ({ passage, config }) => (
    <Flex gap="14px 30px" flexWrap="wrap">
      <PartChoice passage={passage} config={config} />
    </Flex>
  ),
  method: ({ passage, config, change, drills }) => (
    <MethodChoice passage={passage} config={config} change={change} drillCount={drills.length} />
  ),
  click: (props) => <SoundPanel {...props} />,
  strategy: ({ config, change }) => <StrategyChoice config={config} change={change} />,
  input: () => <HeardPanel />,
};

/** What there is to choose of the part of the sentence that is open. */
export const ConfigPanel = ({ open, onClose, ...props }: PanelProps & { open: ConfigTopic['id']; onClose(): void }) => {
  const box = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each part that is opened is gone to.
  useEffect(() => {
    box.current?.scrollIntoView({ block: 'nearest' });
    box.current?.querySelector<HTMLElement>('input:checked, select, button')?.focus({ preventScroll: true });
  }, [open]);
  return (
    <Box
      ref={box}
      onKeyDown={({ key }) => {
        if (key === 'Escape') onClose();
      }}
      as="section"
      id="config-panel"
      aria-label={CONFIG_TOPICS.find(({ id }) => id === open)?.label}
      borderTop="1px solid"
      borderBottom="1px solid"
      borderColor="rule"
      paddingY="14px"
      marginY="12px"
    >
      {PANELS[open](props)}
    </Box>
  );
};
