import { Box, Flex, Text } from '@chakra-ui/react';
import { discardInterrupted, saveInterrupted, useOutbox } from '../recorder/outbox';
import { Action } from './Action';
import { ConfirmDialog } from './ConfirmDialog';

/** Says what is kept in the browser and not yet in the Ledger. */
export const Unsent = () => {
  const { waiting, interrupted, message } = useOutbox();
  if (waiting === 0 && interrupted.length === 0) return null;
  return (
    <Box role="status" borderBottom="1px solid" borderColor="rule" paddingY="10px" fontSize="16px">
      {waiting > 0 && (
        <Text>
          {waiting === 1 ? 'One take is' : `${waiting} takes are`} safe in this browser and will go to the Ledger. {message}
        </Text>
      )}
      {interrupted.map((unsent) => (
        <Flex key={unsent.take.id} gap="14px" align="center" flexWrap="wrap">
          <Text>
            A take of {unsent.take.title} begun at{' '}
            {new Date(unsent.take.startedAt).toLocaleTimeString([], { timeStyle: 'short' })} was broken off after{' '}
            {unsent.take.repetitions.length} repetitions. It is still here.
          </Text>
          <Action onClick={() => void saveInterrupted(unsent)}>Save it to the Ledger</Action>
          <ConfirmDialog
            title="Throw this take away?"
            trigger={<Action quiet>Throw it away</Action>}
            confirm="Throw it away"
            onConfirm={() => void discardInterrupted(unsent)}
          >
            {unsent.take.repetitions.length} repetitions and their sound will be gone.
          </ConfirmDialog>
        </Flex>
      ))}
    </Box>
  );
};
