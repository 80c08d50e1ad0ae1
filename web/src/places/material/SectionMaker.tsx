import { Box, Flex, Heading, Input } from '@chakra-ui/react';
import { barNumbersOf, withSections } from '@isochron/core/material';
import type { Passage, Section } from '@isochron/core/schema';
import { SectionSwingSchema } from '@isochron/core/schema';
import { useState } from 'react';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { swingChoices, swingName, useEighths } from './swings';

const AS_THE_REST = 'as the rest';

interface SectionMakerProps {
  passage: Passage;
  /** Whether the passage has anything that could swing. */
  swings: boolean;
  onChange(passage: Passage): void;
}

/** Names a stretch of bars, says how it swings where that is otherwise than the rest, and takes names away. */
export const SectionMaker = ({ passage, swings, onChange }: SectionMakerProps) => {
  const [name, setName] = useState('');
  const [from, setFrom] = useState('1');
  const [to, setTo] = useState('1');
  const [swing, setSwing] = useState(AS_THE_REST);
  const eighths = useEighths();
  const barNumbers = barNumbersOf(passage);
  const bars = Array.from({ length: passage.bars }, (_, k) => ({ value: String(k + 1), name: String(barNumbers[k] ?? k + 1) }));
  if (passage.bars < 2) return null;
  const barsName = (fromBar: number, toBar: number) =>
    fromBar === toBar ? `bar ${barNumbers[fromBar - 1]}` : `bars ${barNumbers[fromBar - 1]} to ${barNumbers[toBar - 1]}`;
  const add = () => {
    const [fromBar, toBar] = [Math.min(Number(from), Number(to)), Math.max(Number(from), Number(to))];
    const id = `bars-${fromBar}-${toBar}`;
    const asked = SectionSwingSchema.safeParse(Number(swing) || swing).data;
    const section: Section = {
      id,
      name: name.trim() || passage.sections.find((one) => one.id === id)?.name || barsName(fromBar, toBar),
      fromBar,
      toBar,
      ...(asked === undefined ? {} : { swing: asked }),
    };
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
      {swings && (
        <ChoiceField
          label={`${eighths} there`}
          width="210px"
          value={swing}
          choices={[{ value: AS_THE_REST, name: AS_THE_REST }, ...swingChoices()]}
          onChange={setSwing}
        />
      )}
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
          {section.name}
          {section.swing === undefined ? '' : `, ${swingName(section.swing)}`} ×
        </Action>
      ))}
    </Flex>
  );
};
