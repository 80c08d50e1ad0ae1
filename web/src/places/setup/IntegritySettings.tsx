import { Box, Flex, Progress, Text } from '@chakra-ui/react';
import type { Integrity, Tidied } from '@isochron/core/schema';
import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { useIntegrity } from '../../api/queries/upkeep';
import { Action } from '../../app/Action';
import { ConfirmDialog } from '../../app/ConfirmDialog';
import { Notice } from '../../app/Notice';
import { useDates } from '../../app/use-dates';

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

const HowFar = ({ done, of }: Pick<Integrity, 'done' | 'of'>) => (
  <Progress.Root value={of ? Math.min(100, (100 * done) / of) : null} width="300px" size="sm">
    <Progress.Label fontSize="16px">Reading everything that is stored …</Progress.Label>
    <Progress.Track background="rule">
      <Progress.Range background="now" />
    </Progress.Track>
    <Text role="status" fontSize="16px">
      {megabytes(done)} of {megabytes(of)}
    </Text>
  </Progress.Root>
);

const tidiedWords = ({ files, folder, forgotten }: Tidied): string =>
  [
    files > 0 && `${files === 1 ? 'One file was' : `${files} files were`} moved to the folder ${folder}.`,
    forgotten > 0 && `${forgotten === 1 ? 'One recording is' : `${forgotten} recordings are`} not mentioned any more.`,
    files + forgotten === 0 && 'There was nothing to tidy up any more.',
  ]
    .filter(Boolean)
    .join(' ');

/** Whether what is stored is as it was stored, and the copies to go back to. */
export const IntegritySettings = () => {
  const { state, trouble, start, cancel, tidy } = useIntegrity();
  const { moment } = useDates();
  const [said, setSaid] = useState('');
  const { hash } = useLocation();
  // The part is only there once the page is: the browser looked for it before.
  useEffect(() => {
    if (hash === '#data') document.getElementById('data')?.scrollIntoView();
  }, [hash]);
  if (!state) return trouble ? <Notice>{trouble}</Notice> : <Text>Looking …</Text>;
  const { running, done, of, checkedAt, sentences, copies, unclaimed, missing } = state;
  const isWell = sentences.length === 0;
  return (
    <>
      <Text maxWidth="80ch">
        Once a week Isochron reads everything that is stored and compares it with what was written. Every day it makes a copy of
        the database, without the sound, and keeps the newest of two days, two weeks and two months.
      </Text>
      {sentences.map((sentence) => (
        <Notice key={sentence}>{sentence}</Notice>
      ))}
      <Flex gap="20px" align="center" marginTop="10px" flexWrap="wrap">
        {running ? (
          <>
            <HowFar done={done} of={of} />
            <Action quiet onClick={cancel}>
              Stop
            </Action>
          </>
        ) : (
          <>
            {isWell && (
              <Text role="status">
                {checkedAt ? `All was as it was stored on ${moment(checkedAt)}.` : 'Nothing was checked to the end yet.'}
              </Text>
            )}
            <Action quiet onClick={start}>
              Check it now
            </Action>
          </>
        )}
        {unclaimed + missing > 0 && !running && (
          <ConfirmDialog
            title="Tidy up the recordings?"
            trigger={<Action quiet>Tidy up</Action>}
            confirm="Tidy up"
            keep="Leave it"
            onConfirm={() =>
              void tidy().then(
                (tidied) => setSaid(tidiedWords(tidied)),
                () => {},
              )
            }
          >
            {unclaimed > 0 && 'Files that belong to no take are moved to a folder of their own. '}
            {missing > 0 && 'Takes whose recording is gone stop mentioning it. '}
            Nothing is deleted.
          </ConfirmDialog>
        )}
      </Flex>
      {said && (
        <Text role="status" marginTop="10px">
          {said}
        </Text>
      )}
      {copies.length > 0 && (
        <Box marginTop="14px" fontSize="16px">
          <Text fontWeight="600">Copies in the data folder</Text>
          <Box as="ul" listStyleType="none" padding="0">
            {copies.map(({ name, madeAt, bytes }) => (
              <Box as="li" key={name}>
                {name} · {moment(madeAt)} · {megabytes(bytes)}
              </Box>
            ))}
          </Box>
        </Box>
      )}
      <Notice>{trouble}</Notice>
    </>
  );
};
