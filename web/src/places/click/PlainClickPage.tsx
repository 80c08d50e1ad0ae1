import { Box, Flex, Text } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import { CLICK_PLANS } from '@isochron/core/material';
import { type ClickPlan, TempoSchema } from '@isochron/core/schema';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceCards } from '../../app/ChoiceCards';
import { CountField, Fields } from '../../app/fields';
import { LevelField } from '../../app/LevelField';
import { Notice } from '../../app/Notice';
import { PageTitle } from '../../app/Page';
import { usePageKeys } from '../../app/use-page-keys';
import { KeyHints } from '../bench/KeyHints';
import { TempoFigure } from '../bench/TempoFigure';
import { type Tempos, TemposSchema } from '../bench/use-beginning';
import { usePlainClick } from './use-plain-click';

const FIRST_BPM = 80;
const BEATS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12];
const MINUTES = [0, 1, 2, 3, 5, 10, 15, 20, 30];
const GAPS = [0, 1, 2, 4];
/** Without notes there is nothing else to click on, and without a click nothing at all. */
const KINDS = CLICK_PLANS.filter(({ kind }) => kind !== 'note' && kind !== 'none');

const clockWords = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;

/** A click and nothing else: to try a tempo, or to practise by without being measured. */
export const PlainClickPage = () => {
  const { settings, change } = useSettings();
  const form = useForm<Tempos>({
    resolver: zodResolver(TemposSchema),
    mode: 'onChange',
    defaultValues: { startBpm: FIRST_BPM, goalBpm: FIRST_BPM },
  });
  const [beatsPerBar, setBeatsPerBar] = useState(4);
  const [kind, setKind] = useState<ClickPlan['kind']>('beat');
  const [gapBars, setGapBars] = useState(0);
  const [minutes, setMinutes] = useState(0);
  const bpm = TempoSchema.safeParse(Number(form.watch('startBpm')));
  const gap = gapBars > 0 ? { gap: { clickedBars: gapBars, silentBars: gapBars } } : {};
  const { state, bar, leftS, trouble, start, stop } = usePlainClick(
    bpm.success ? { click: { kind, divisions: 2, countInBars: 1, ...gap }, beatsPerBar, bpm: bpm.data } : null,
    minutes || null,
  );
  const isOn = state === 'sounding';
  const turn = (by: number) => {
    if (bpm.success) form.setValue('startBpm', bpm.data + by, { shouldValidate: true });
  };
  const toggle = () => (isOn ? stop() : void start());
  usePageKeys({
    Enter: toggle,
    PageDown: toggle,
    Escape: stop,
    PageUp: stop,
    ArrowUp: () => turn(1),
    ArrowDown: () => turn(-1),
  });
  return (
    <>
      <PageTitle title="Plain click">Nothing is listened to, and nothing is kept.</PageTitle>
      <Notice>{trouble}</Notice>
      <Flex gap="16px 46px" align="flex-end" flexWrap="wrap">
        <TempoFigure form={form} name="startBpm" label="Tempo" tapLabel="tap in the tempo" help="beats a minute" />
        <Action
          fontSize="34px"
          fontFamily="heading"
          padding="10px 36px"
          loading={state === 'opening'}
          loadingText="Starting the sound …"
          onClick={toggle}
        >
          {isOn ? 'Stop' : 'Start'}
        </Action>
        <Text fontFamily="heading" fontSize="34px" lineHeight="1.2" role="status" data-testid="place">
          {isOn ? `bar ${bar}` : ''}
          {isOn && leftS !== null ? ` · ${clockWords(leftS)} left` : ''}
        </Text>
      </Flex>
      <Text fontWeight="600" fontSize="16px" marginTop="20px" marginBottom="6px">
        It clicks
      </Text>
      <ChoiceCards<ClickPlan['kind']>
        label="It clicks"
        value={kind}
        choices={KINDS.map((one) => ({ value: one.kind, name: one.name }))}
        onChange={setKind}
      />
      <Fields>
        <CountField label="Beats in a bar" value={beatsPerBar} counts={BEATS} name={String} onChange={setBeatsPerBar} />
        <CountField
          label="It falls silent"
          value={gapBars}
          counts={GAPS}
          name={(bars) => (bars === 0 ? 'never' : bars === 1 ? 'every other bar' : `${bars} bars on, ${bars} off`)}
          onChange={setGapBars}
        />
        <CountField
          label="A bell, and it stops"
          value={minutes}
          counts={MINUTES}
          name={(count) => (count === 0 ? 'never' : count === 1 ? 'after a minute' : `after ${count} minutes`)}
          onChange={setMinutes}
        />
        <LevelField label="Click level" value={settings.clickLevel} onChange={(clickLevel) => void change({ clickLevel })} />
      </Fields>
      <Box marginTop="14px">
        <KeyHints
          hints={[
            { keyName: 'Enter', does: isOn ? 'stop' : 'start', act: toggle },
            { keyName: '↑', does: 'faster', act: () => turn(1) },
            { keyName: '↓', does: 'slower', act: () => turn(-1) },
          ]}
        />
      </Box>
      <Text color="quiet" fontSize="16px" marginTop="10px" maxWidth="80ch">
        What is changed while it runs holds from the next bar on; the level and the sound of the click (Setup, Click) from the
        next start.
      </Text>
    </>
  );
};
