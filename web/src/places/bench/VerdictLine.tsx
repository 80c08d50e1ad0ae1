import { Text } from '@chakra-ui/react';
import type { Repetition } from '@isochron/core';
import { OUTCOME_WORDS } from '../../strip/words';

/** The last verdict, its one reason, and the next tempo with its reason. */
export const VerdictLine = ({ repetition }: { repetition: Repetition }) => {
  const { verdict, decision, index } = repetition;
  return (
    <div
      role="status"
      data-testid="verdict"
      data-repetition={index}
      data-outcome={verdict.outcome}
      data-action={decision.action}
    >
      <Text fontFamily="heading" fontSize="68px" lineHeight="1">
        {OUTCOME_WORDS[verdict.outcome]}
      </Text>
      <Text fontSize="26px" lineHeight="1.3" marginTop="10px">
        {verdict.sentence}
      </Text>
      <Text fontSize="26px" lineHeight="1.3" color="now" fontWeight="600">
        {decision.reason}
      </Text>
      {repetition.shiftDoubtful && (
        <Text fontSize="17px" color="quiet">
          The notes would fit a whole step earlier or later about as well; the likelier place was taken.
        </Text>
      )}
    </div>
  );
};
