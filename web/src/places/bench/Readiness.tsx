import { Box, chakra, Flex, Link, Text } from '@chakra-ui/react';
import { READINESS, type ReadinessCheck, readinessLeft } from '@isochron/core/material';
import { Link as RouterLink } from 'react-router';
import { Action } from '../../app/Action';
import type { ConfigChoice } from './config-choice';

const Answer = chakra('button', {
  base: {
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'control',
    paddingX: '9px',
    fontSize: '15px',
    color: 'quiet',
    cursor: 'pointer',
    '&[aria-pressed=true]': { borderColor: 'now', color: 'ink', background: 'band' },
  },
});

const ANSWERS = [
  { value: 'yes', name: 'yes' },
  { value: 'not-yet', name: 'not yet' },
  { value: 'skipped', name: 'skip' },
] as const;

interface HelpProps extends Pick<ConfigChoice, 'change'> {
  help: ReadinessCheck['help'];
  passageId: string;
  /** Sets a slower start. */
  slower(): void;
}

/** Does what helps where something is not so yet. */
const Help = ({ help, passageId, change, slower }: HelpProps) => {
  if (help === 'mark')
    return (
      <Link asChild color="now" textDecoration="underline">
        <RouterLink to={`/material/${passageId}`}>To its page</RouterLink>
      </Link>
    );
  return (
    <Action quiet fontSize="15px" padding="1px 10px" onClick={() => (help === 'slower' ? slower() : change(help.change))}>
      {help === 'slower' ? 'Begin slower' : 'Practise it like that'}
    </Action>
  );
};

/** What should be so before speed: each answered once for a passage, or skipped without comment; "not yet" leads to what helps. */
export const Readiness = ({ config, change, slower }: ConfigChoice & { slower(): void }) => {
  const left = readinessLeft(config.readiness);
  const notYet = Object.values(config.readiness).filter((answer) => answer === 'not-yet').length;
  return (
    <Box as="details" marginTop="14px" data-testid="readiness">
      <Text as="summary" cursor="pointer" fontSize="16px">
        Before speed: {left === 0 ? 'all is answered' : `${left} ${left === 1 ? 'question' : 'questions'} not answered`}
        {notYet > 0 && ` · ${notYet} not yet`}
      </Text>
      {READINESS.map(({ id, question, otherwise, help }) => (
        <Flex key={id} gap="4px 14px" align="baseline" flexWrap="wrap" paddingY="3px">
          <Text minWidth="320px">{question}</Text>
          {ANSWERS.map(({ value, name }) => (
            <Answer
              key={value}
              type="button"
              aria-label={`${question} ${name}`}
              aria-pressed={config.readiness[id] === value}
              onClick={() => change({ readiness: { [id]: config.readiness[id] === value ? 'no' : value } })}
            >
              {name}
            </Answer>
          ))}
          {config.readiness[id] === 'not-yet' && (
            <Text fontSize="16px" role="status">
              {otherwise} <Help help={help} passageId={config.passageId} change={change} slower={slower} />
            </Text>
          )}
        </Flex>
      ))}
    </Box>
  );
};
