import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { READINESS, readinessLeft } from '@isochron/core/material';
import type { PracticeConfig, PracticeConfigChange } from '@isochron/core/schema';

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
  { value: 'skipped', name: 'skip' },
] as const;

/** What should be so before speed: each answered once for a passage, or skipped without comment. */
export const Readiness = ({ config, change }: { config: PracticeConfig; change(part: PracticeConfigChange): void }) => {
  const left = readinessLeft(config.readiness);
  return (
    <Box as="details" marginTop="14px" data-testid="readiness">
      <Text as="summary" cursor="pointer" fontSize="16px">
        Before speed: {left === 0 ? 'all is answered' : `${left} ${left === 1 ? 'question' : 'questions'} not answered`}
      </Text>
      {READINESS.map(({ id, question, otherwise }) => (
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
          {config.readiness[id] === undefined && (
            <Text color="quiet" fontSize="15px">
              {otherwise}
            </Text>
          )}
        </Flex>
      ))}
    </Box>
  );
};
