import { Box, Flex, Text } from '@chakra-ui/react';
import type { Passage } from '@isochron/core/schema';
import { useNavigate } from 'react-router';
import { Action } from '../../app/Action';
import { PageTitle } from '../../app/Page';
import { redo, undo } from '../../stores/editor';
import type { Saving } from './use-autosave';

const SAVING_WORDS: Record<Saving, string> = {
  saved: 'stored',
  saving: 'storing …',
  waiting: 'kept in the browser',
};

/** A passage's title, how far it is stored, and the way to the Bench. */
export const PassageHeader = ({ passage, saving }: { passage: Passage; saving: Saving }) => {
  const navigate = useNavigate();
  return (
    <Flex justify="space-between" align="flex-start" gap="10px 24px" flexWrap="wrap">
      <Box maxWidth="720px">
        <PageTitle title={passage.title} />
        {passage.about && <Text color="quiet">{passage.about}</Text>}
      </Box>
      <Flex gap="10px" flexWrap="wrap" align="center">
        <Text color="quiet" fontSize="15px" role="status" data-testid="saving">
          {SAVING_WORDS[saving]}
        </Text>
        <Action quiet onClick={undo} aria-label="Undo the last change">
          Undo
        </Action>
        <Action quiet onClick={redo} aria-label="Redo what was undone">
          Redo
        </Action>
        <Action onClick={() => void navigate(`/bench/${passage.id}`)}>To the Bench</Action>
      </Flex>
    </Flex>
  );
};
