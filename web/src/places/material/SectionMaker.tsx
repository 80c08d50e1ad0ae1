import { Box, Flex, Heading, Input } from '@chakra-ui/react';
import { barNumbersOf, withSections } from '@isochron/core/material';
import type { Passage } from '@isochron/core/schema';
import { useState } from 'react';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';

/** Names a stretch of bars, and takes names away. */
export const SectionMaker = ({ passage, onChange }: { passage: Passage; onChange(passage: Passage): void }) => {
  const [name, setName] = useState('');
  const [from, setFrom] = useState('1');
  const [to, setTo] = useState('1');
  const barNumbers = barNumbersOf(passage);
  const bars = Array.from({ length: passage.bars }, (_, k) => ({ value: String(k + 1), name: String(barNumbers[k] ?? k + 1) }));
  if (passage.bars < 2) return null;
  const add = () => {
    const [fromBar, toBar] = [Math.min(Number(from), Number(to)), Math.max(Number(from), Number(to))];
    const id = `bars-${fromBar}-${toBar}`;
    const section = { id, name: name.trim() || `bars ${barNumbers[fromBar - 1]} to ${barNumbers[toBar - 1]}`, fromBar, toBar };
    onChange(withSections(passage, [...passage.sections.filter((one) => one.id !== id), section]));
    setName('');
  };
  return (
    <Flex gap="10px 16px" align="flex-end" flexWrap="wrap" marginTop="12px">
      <ChoiceField label="From bar" width="90px" value={from} choices={bars} onChange={setFrom} />
      <ChoiceField label="To bar" width="90px" value={to} choices={bars} onChange={setTo} />
      <Box>
        <Heading as="h3" fontSize="16px" fontWeight="600" fontFamily="body" id="section-name">
          Name
        </Heading>
        <Input
          aria-labelledby="section-name"
          value={name}
          maxLength={80}
          onChange={(event) => setName(event.target.value)}
          width="150px"
          borderColor="quiet"
        />
      </Box>
      <Action quiet onClick={add}>
        Name these bars
      </Action>
      {passage.sections.map((section) => (
        <Action
          key={section.id}
          quiet
          fontSize="15px"
          paddingY="2px"
          aria-label={`Take away the name ${section.name}`}
          onClick={() =>
            onChange(
              withSections(
                passage,
                passage.sections.filter((one) => one.id !== section.id),
              ),
            )
          }
        >
          {section.name} ×
        </Action>
      ))}
    </Flex>
  );
};
