import { Box, Flex, Heading, Link, Text } from '@chakra-ui/react';
import type { Passage } from '@isochron/core/schema';
import { Link as RouterLink } from 'react-router';
import { useHealth } from '../../api/queries/upkeep';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';
import { useBench } from '../../stores/bench';
import { RestReminder } from './RestReminder';
import { minutesWords, RunWords } from './RunWords';

/** Between two blocks of a run: time to turn the page. */
export const TURN_S = 6;

interface BeginHeaderProps {
  passage: Passage;
  /** Whether there is something to begin with. */
  canBegin: boolean;
  /** Empty, or why not. */
  trouble: string;
  /** Until it begins by itself; null where it does not. */
  seconds: number | null;
}

/** What is about to be played, the one button, and whatever has to be known before it. */
export const BeginHeader = ({ passage, canBegin, trouble, seconds }: BeginHeaderProps) => {
  const { settings } = useSettings();
  const opening = useBench((bench) => bench.opening);
  const storage = useHealth().data?.storage ?? '';
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="16px 30px" flexWrap="wrap">
        <Box maxWidth="560px">
          <Heading as="h1" fontFamily="heading" fontWeight="500" fontSize={{ base: '30px', md: '40px' }} lineHeight="1.15">
            {passage.title}
          </Heading>
          <Text color="quiet">
            {passage.about}{' '}
            <Link asChild color="now" textDecoration="underline">
              <RouterLink to="/click">Only a click</RouterLink>
            </Link>
          </Text>
        </Box>
        <Action
          type="submit"
          loading={opening}
          disabled={!canBegin}
          loadingText="Starting the sound …"
          fontSize="34px"
          fontFamily="heading"
          padding="10px 36px"
        >
          Begin
        </Action>
      </Flex>
      <Notice>{trouble}</Notice>
      <RunWords />
      {seconds !== null && (
        <Text role="status" fontSize="24px" fontFamily="heading" data-testid="countdown">
          {seconds > TURN_S
            ? `A break: it goes on by itself in ${minutesWords(seconds)}. Enter goes on at once.`
            : `It begins by itself in ${seconds} s.`}
        </Text>
      )}
      <RestReminder />
      <Notice>{storage}</Notice>
      {settings.input === 'simulated' && (
        <Text borderLeft="4px solid" borderColor="now" paddingLeft="14px" marginTop="14px" fontSize="18px">
          The simulated player plays for you: no instrument is needed. To be heard yourself, press H and choose the microphone.
        </Text>
      )}
    </>
  );
};
