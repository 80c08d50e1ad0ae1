import { Box, Flex, Text } from '@chakra-ui/react';
import { wavHead } from '@isochron/core/material';
import { keptRecording } from '../recorder/kept-recording';
import { discardInterrupted, saveInterrupted, tryAgain, useOutbox } from '../recorder/outbox';
import type { UnsentTake } from '../recorder/unsent-take';
import { Action } from './Action';
import { ConfirmDialog } from './ConfirmDialog';
import { saveAs } from './save-as';

/** Hands a take that is kept here to the player: its figures as JSON, its sound as WAV. */
const exportUnsent = async ({ take }: UnsentTake): Promise<void> => {
  saveAs(`${take.passageId}-${take.id}.json`, 'application/json', JSON.stringify(take, null, 2));
  const recording = await keptRecording(take.id);
  if (!recording) return;
  const { frames, sampleRateHz, seconds, read } = recording;
  // By the minute: the browser may lay the parts of a long file on its disk.
  const parts = await Promise.all(
    Array.from({ length: Math.ceil(seconds / 60) }, (_, k) =>
      read(60 * k, 60 * (k + 1)).then((samples) => new Blob([samples])),
    ),
  );
  saveAs(`${take.passageId}-${take.id}.wav`, 'audio/wav', wavHead(frames, sampleRateHz), ...parts);
};

const ThrowAway = ({ unsent }: { unsent: UnsentTake }) => (
  <ConfirmDialog
    title="Throw this take away?"
    trigger={<Action quiet>Throw it away</Action>}
    confirm="Throw it away"
    onConfirm={() => void discardInterrupted(unsent)}
  >
    {unsent.take.repetitions.length} repetitions and their sound will be gone.
  </ConfirmDialog>
);

/** Says what is kept in the browser and not yet in the Ledger. */
export const Unsent = () => {
  const { waiting, interrupted, refused, message, notKept } = useOutbox();
  if (waiting === 0 && interrupted.length === 0 && refused.length === 0 && !message && !notKept) return null;
  return (
    <Box role="status" borderBottom="1px solid" borderColor="rule" paddingY="10px" fontSize="16px">
      {waiting > 0 && !notKept && (
        <Text>
          {waiting === 1 ? 'One take is' : `${waiting} takes are`} safe in this browser and will go to the Ledger. {message}
        </Text>
      )}
      {waiting === 0 && !notKept && message && <Text>{message}</Text>}
      {notKept && (
        <Text>
          {notKept} {message}
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
          <ThrowAway unsent={unsent} />
        </Flex>
      ))}
      {refused.map((unsent) => (
        <Flex key={unsent.take.id} gap="14px" align="center" flexWrap="wrap">
          <Text>
            A take of {unsent.take.title} could not be stored: {unsent.refused} It is kept in this browser.
          </Text>
          <Action quiet onClick={() => void tryAgain(unsent)}>
            Try again
          </Action>
          <Action quiet onClick={() => void exportUnsent(unsent)}>
            Save it as files
          </Action>
          <ThrowAway unsent={unsent} />
        </Flex>
      ))}
    </Box>
  );
};
