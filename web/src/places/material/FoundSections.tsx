import { Flex, Text } from '@chakra-ui/react';
import { barNumbersOf, barRange, foundSections, withSections } from '@isochron/core/material';
import type { Passage } from '@isochron/core/schema';
import { useMemo } from 'react';
import { Action } from '../../app/Action';

/** Bars that are the same as others: they need their practice only once. */
export const FoundSections = ({ passage, onChange }: { passage: Passage; onChange(passage: Passage): void }) => {
  const found = useMemo(() => foundSections(passage), [passage]);
  if (found.length === 0) return null;
  const numbers = barNumbersOf(passage);
  const take = () => {
    const once = found.filter(({ repeats }) => !repeats);
    onChange(
      withSections(
        passage,
        once.map(({ name, fromBar, toBar }) => ({ id: `bars-${fromBar}-${toBar}`, name, fromBar, toBar })),
      ),
    );
  };
  return (
    <Flex gap="10px 18px" align="center" flexWrap="wrap" marginTop="10px">
      <Text>
        Bars that repeat: {found.map(({ name, ...bars }) => `${name} (${barRange(numbers, bars)})`).join(', ')}. What repeats
        exactly needs its practice only once.
      </Text>
      <Action quiet onClick={take}>
        Take these as sections
      </Action>
    </Flex>
  );
};
