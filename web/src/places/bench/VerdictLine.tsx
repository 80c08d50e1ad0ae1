import { Box, Flex, Text } from '@chakra-ui/react';
import type { Repetition, TempoAction } from '@isochron/core/schema';
import { verdictWord } from '@isochron/core/words';
import { ArrowDown, ArrowRight, ArrowUp, Equal, Flag, type LucideIcon, Pause, Square } from 'lucide-react';
import { useDescribe } from '../../app/use-describe';

/** A sign beside each decision: seen before it is read. */
const SIGNS: Record<TempoAction, LucideIcon> = {
  raise: ArrowUp,
  hold: Equal,
  lower: ArrowDown,
  problem: Pause,
  goal: Flag,
  stop: Square,
  next: ArrowRight,
  done: Square,
};

/** Asks the browser to note when the word is painted (Element Timing API). */
const PAINTED = { elementtiming: 'verdict' };

/** The last verdict, its one reason, and the next tempo with its reason. */
export const VerdictLine = ({ repetition }: { repetition: Repetition }) => {
  const say = useDescribe();
  const { verdict, decision, index } = repetition;
  const Sign = SIGNS[decision.action];
  const size = { base: '20px', md: '26px' };
  return (
    <div
      role="status"
      data-testid="verdict"
      data-repetition={index}
      data-outcome={verdict.outcome}
      data-action={decision.action}
    >
      <Box fontFamily="heading" fontSize={{ base: '48px', md: '68px' }} lineHeight="1">
        {/* Each verdict is an element of its own, whose painting the browser tells to the benchmark. */}
        <p key={index} {...PAINTED}>
          {verdictWord(repetition)}
        </p>
      </Box>
      <Text fontSize={size} lineHeight="1.3" marginTop="10px">
        {say(verdict.why)}
      </Text>
      <Flex align="center" gap="8px" color="now">
        <Sign size={24} aria-hidden style={{ flexShrink: 0 }} />
        <Text fontSize={size} lineHeight="1.3" fontWeight="600">
          {say(decision.why)}
        </Text>
      </Flex>
      {repetition.shiftDoubtful && (
        <Text fontSize="17px" color="quiet">
          The notes would fit a whole step earlier or later about as well; the likelier place was taken.
        </Text>
      )}
    </div>
  );
};
