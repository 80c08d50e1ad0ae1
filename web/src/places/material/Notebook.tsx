import { Box, Flex, Text, Textarea } from '@chakra-ui/react';
import { solutionsFor } from '@isochron/core/material';
import { howItWent } from '@isochron/core/planning';
import { now, type Solution } from '@isochron/core/schema';
import { useState } from 'react';
import { z } from 'zod';
import { useNotebook } from '../../api/queries/passages';
import { useHistory } from '../../api/queries/practice';
import { Action } from '../../app/Action';
import { NumberField } from '../../app/fields';
import { toaster } from '../../app/toaster';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';

const barsWords = ({ fromBar, toBar }: Solution, firstBarNumber: number): string => {
  const [from, to] = [fromBar + firstBarNumber - 1, toBar + firstBarNumber - 1];
  return from === to ? `Bar ${from}` : `Bars ${from} to ${to}`;
};

interface Props {
  passageId: string;
  bars: number;
  firstBarNumber: number;
  /** Only what is about these bars, counted from 1; null for all. */
  about?: { fromBar: number; toBar: number } | null;
  /** Shows the entries alone. */
  readOnly?: boolean;
}

/** The notebook of a passage: what solved a problem, by bars, so that it need not be solved twice. */
export const Notebook = ({ passageId, bars, firstBarNumber, about = null, readOnly = false }: Props) => {
  const { solutions, write } = useNotebook();
  const { day } = useDates();
  const say = useDescribe();
  const [text, setText] = useState('');
  const [fromBar, setFromBar] = useState(firstBarNumber);
  const [toBar, setToBar] = useState(firstBarNumber);
  const last = firstBarNumber + bars - 1;
  const BarSchema = z
    .number({ message: 'The number of a bar.' })
    .int('A whole number.')
    .min(firstBarNumber, `Bars begin at ${firstBarNumber}.`)
    .max(last, `The last bar is ${last}.`);
  const history = useHistory(passageId);
  /** How it went since, in a sentence of its own line. */
  const sinceWords = (solution: Solution) => {
    const reason = howItWent(solution, history);
    return reason ? `\n${say(reason)}` : '';
  };
  const entries = solutionsFor(solutions, passageId, about);
  const add = () => {
    if (text.trim() === '') return;
    const at = now().toISOString();
    const [from, to] = [Math.min(fromBar, toBar), Math.max(fromBar, toBar)].map((bar) => bar - firstBarNumber + 1) as [
      number,
      number,
    ];
    write({
      id: crypto.randomUUID(),
      passageId,
      fromBar: from,
      toBar: to,
      text: text.trim(),
      writtenAt: at,
      editedAt: at,
      removed: false,
    });
    setText('');
  };
  const remove = (solution: Solution) => {
    write({ ...solution, removed: true, editedAt: now().toISOString() });
    toaster.create({
      title: 'Taken out of the notebook.',
      action: { label: 'Put it back', onClick: () => write({ ...solution, editedAt: now().toISOString() }) },
    });
  };
  if (readOnly && entries.length === 0) return null;
  return (
    <Box data-testid="notebook">
      {entries.map((solution) => (
        <Flex
          key={solution.id}
          as="article"
          gap="4px 18px"
          borderBottom="1px solid"
          borderColor="rule"
          paddingY="8px"
          flexWrap="wrap"
        >
          <Text fontWeight="600" minWidth="110px">
            {barsWords(solution, firstBarNumber)}
          </Text>
          <Text flex="1" minWidth="200px" whiteSpace="pre-wrap">
            {solution.text}
            {sinceWords(solution)}
          </Text>
          <Text color="quiet" fontSize="15px">
            {day(solution.editedAt)}
          </Text>
          {!readOnly && (
            <Action
              quiet
              fontSize="15px"
              paddingY="2px"
              onClick={() => remove(solution)}
              aria-label={`Take out: ${solution.text.slice(0, 40)}`}
            >
              Take out
            </Action>
          )}
        </Flex>
      ))}
      {!readOnly && (
        <Flex gap="12px 20px" align="flex-end" flexWrap="wrap" marginTop="12px" className="not-printed">
          <Box flex="1" minWidth="260px">
            <Textarea
              aria-label="What solved it"
              placeholder="What solved it: another finger, a breath, less arm …"
              value={text}
              onChange={(event) => setText(event.target.value)}
              rows={2}
              fontSize="17px"
              borderColor="quiet"
              borderRadius="control"
            />
          </Box>
          <NumberField label="From bar" value={fromBar} schema={BarSchema} onChange={setFromBar} width="90px" />
          <NumberField label="To bar" value={toBar} schema={BarSchema} onChange={setToBar} width="90px" />
          <Action quiet onClick={add}>
            Write it down
          </Action>
        </Flex>
      )}
    </Box>
  );
};
