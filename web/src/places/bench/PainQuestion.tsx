import { Box, Text } from '@chakra-ui/react';
import { PAIN_ADVICE } from '@isochron/core/words';
import { useState } from 'react';
import { useLightDay } from '../../api/light-day';
import { Action } from '../../app/Action';

/** What begins a take, where it hurt lately only once it was asked whether it still does. */
export interface AskedBeginning {
  /** Whether the question stands. */
  isAsked: boolean;
  /** Whether it must be asked before anything begins by itself. */
  mustAsk: boolean;
  begin(event?: React.BaseSyntheticEvent): Promise<void>;
}

/** Asks once, for as long as the Bench is open, before a take is begun in the days after pain. */
export const usePainQuestion = (start: (event?: React.BaseSyntheticEvent) => Promise<void>): AskedBeginning => {
  const isLight = useLightDay();
  const [asked, setAsked] = useState<'not yet' | 'now' | 'answered'>('not yet');
  const mustAsk = isLight && asked !== 'answered';
  return {
    isAsked: mustAsk && asked === 'now',
    mustAsk,
    begin: async (event) => {
      if (mustAsk && asked === 'not yet') {
        event?.preventDefault();
        setAsked('now');
        return;
      }
      setAsked('answered');
      await start(event);
    },
  };
};

/** The question itself. */
export const PainQuestion = ({ begin }: Pick<AskedBeginning, 'begin'>) => (
  <Box role="alert" borderLeft="4px solid" borderColor="now" paddingLeft="14px" marginTop="16px" data-testid="pain-question">
    <Text fontFamily="heading" fontSize="28px">
      It hurt lately. Does anything hurt now?
    </Text>
    <Text fontSize="18px" maxWidth="70ch">
      If it does, do not begin. {PAIN_ADVICE}
    </Text>
    <Action type="button" onClick={() => void begin()} marginTop="8px">
      Nothing hurts: begin (Enter)
    </Action>
  </Box>
);
