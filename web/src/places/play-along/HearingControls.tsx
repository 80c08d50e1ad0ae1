import { Flex } from '@chakra-ui/react';
import { z } from 'zod';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField, NumberField, YesNoField } from '../../app/fields';
import { LevelField } from '../../app/LevelField';

const SpeedSchema = z
  .number({ message: 'A number from 40 to 150.' })
  .min(40, 'Not under 40: it would blur.')
  .max(150, 'Not over 150.');
/** Seconds shown at once, from single beats to a whole stretch. */
const SPANS_S = [4, 10, 25, 60];
const NOT = '';
/** What is repeated at first, in bars. */
const LOOP_BARS = 4;

/** How a recording is heard and shown, as the player has set it. */
export interface HearingChoice {
  speedPct: number;
  /** The bars that are repeated, counted from 0, the last one among them; null for none. */
  loop: { fromBar: number; toBar: number } | null;
  withClick: boolean;
  spanS: number;
}

export const FIRST_HEARING: HearingChoice = { speedPct: 100, loop: null, withClick: false, spanS: 10 };

interface Props {
  choice: HearingChoice;
  onChange(part: Partial<HearingChoice>): void;
  bars: number;
  state: 'silent' | 'opening' | 'sounding';
  onToggle(): void;
}

/** Play and stop, speed, loop, level, click, and how much is shown. */
export const HearingControls = ({ choice, onChange, bars, state, onToggle }: Props) => {
  const { settings, change } = useSettings();
  const { speedPct, loop, withClick, spanS } = choice;
  const barChoices = Array.from({ length: bars }, (_, bar) => ({ value: String(bar), name: `bar ${bar + 1}` }));
  const loopFrom = (fromBar: number) => {
    const toBar = loop && loop.toBar >= fromBar ? loop.toBar : Math.min(bars, fromBar + LOOP_BARS) - 1;
    onChange({ loop: { fromBar, toBar } });
  };
  return (
    <Flex gap="14px 24px" flexWrap="wrap" align="flex-end" marginTop="14px">
      <Action
        onClick={onToggle}
        loading={state === 'opening'}
        loadingText="Starting the sound …"
        fontFamily="heading"
        fontSize="22px"
        padding="8px 28px"
      >
        {state === 'sounding' ? 'Stop (p)' : 'Play (p)'}
      </Action>
      <NumberField
        label="Speed"
        unit="%"
        value={speedPct}
        schema={SpeedSchema}
        onChange={(next) => onChange({ speedPct: next })}
        width="90px"
      />
      <ChoiceField
        label="Over and over, from"
        width="170px"
        value={loop ? String(loop.fromBar) : NOT}
        choices={[{ value: NOT, name: 'not' }, ...barChoices]}
        onChange={(bar) => (bar === NOT ? onChange({ loop: null }) : loopFrom(Number(bar)))}
      />
      {loop && (
        <ChoiceField
          label="to the end of"
          width="130px"
          value={String(loop.toBar)}
          choices={barChoices.slice(loop.fromBar)}
          onChange={(bar) => onChange({ loop: { ...loop, toBar: Number(bar) } })}
        />
      )}
      <LevelField
        label="Level"
        value={settings.playAlongLevel}
        onChange={(playAlongLevel) => void change({ playAlongLevel })}
        width="90px"
      />
      <YesNoField label="Click on its beats" value={withClick} onChange={(next) => onChange({ withClick: next })} />
      <ChoiceField
        label="Shown at once"
        width="130px"
        value={String(spanS)}
        choices={SPANS_S.map((seconds) => ({ value: String(seconds), name: `${seconds} s` }))}
        onChange={(next) => onChange({ spanS: Number(next) })}
      />
    </Flex>
  );
};
