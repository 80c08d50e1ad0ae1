import { Box, Flex, Link, Text } from '@chakra-ui/react';
import { AppError, LARGEST_ACCOMPANIMENT_BYTES, LONGEST_ACCOMPANIMENT_S } from '@isochron/core/schema';
import { useRef, useState } from 'react';
import { Link as RouterLink, useNavigate } from 'react-router';
import { refetchAccompaniments, useAccompaniments } from '../../api/accompaniments';
import { postAccompaniment } from '../../api/client';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';
import { PageTitle } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { usePageKeys } from '../../app/use-page-keys';
import { decodeSound } from '../../audio/decode-sound';
import { bpm } from '../../words';
import { lengthWords } from './play-along-words';

/** Checks that a file can be played along with, and stores it; gives back its id. Throws with a sentence for the player. */
const bring = async (file: File): Promise<string> => {
  if (file.size === 0) throw new AppError('The file is empty. Choose a recording with music in it.');
  if (file.size > LARGEST_ACCOMPANIMENT_BYTES)
    throw new AppError('The file is larger than 300 MB. Keep only the part you want to play with, and try again.');
  const { duration } = await decodeSound(await file.arrayBuffer());
  if (duration > LONGEST_ACCOMPANIMENT_S)
    throw new AppError('The recording is longer than 20 minutes. Keep only the part you want to play with, and try again.');
  const id = crypto.randomUUID();
  await postAccompaniment(
    id,
    { title: file.name.replace(/\.[^.]+$/, '').slice(0, 200) || 'Recording', lengthS: duration },
    file,
  );
  await refetchAccompaniments();
  return id;
};

/** The player's own recordings to play along with, and the way to bring one. */
export const PlayAlongPlace = () => {
  const { accompaniments, message } = useAccompaniments();
  const navigate = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState(false);
  const [trouble, setTrouble] = useState('');
  const open = async (chosen: File) => {
    setTrouble('');
    setReading(true);
    try {
      await navigate(`/material/along/${await bring(chosen)}`);
    } catch (error) {
      setTrouble(playerMessage(error));
    } finally {
      setReading(false);
    }
  };
  usePageKeys({ n: () => file.current?.click() });
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="8px 24px" flexWrap="wrap">
        <PageTitle title="Play along">
          Your own recordings: slower or faster, round and round, and what you play measured against their beats.
        </PageTitle>
        <Box marginBottom="22px">
          <Action loading={reading} loadingText="Reading …" onClick={() => file.current?.click()}>
            Bring a recording
          </Action>
          <input
            ref={file}
            type="file"
            accept=".aif,.aiff,.caf,audio/*,video/*"
            aria-label="A recording to play along with"
            style={{ display: 'none' }}
            onChange={(event) => {
              const [chosen] = event.target.files ?? [];
              event.target.value = '';
              if (chosen) void open(chosen);
            }}
          />
        </Box>
      </Flex>
      <Notice>{message || trouble}</Notice>
      {accompaniments.length === 0 ? (
        <Text color="quiet">There is none yet. Any file that your browser can play will do.</Text>
      ) : (
        <Box as="ul" listStyleType="none" padding="0" aria-label="Recordings">
          {accompaniments.map((one) => (
            <Flex
              as="li"
              key={one.id}
              gap="4px 24px"
              align="baseline"
              borderBottom="1px solid"
              borderColor="rule"
              paddingY="10px"
              flexWrap="wrap"
            >
              <Link
                asChild
                fontFamily="heading"
                fontSize="21px"
                color="ink"
                textDecoration="underline"
                textDecorationColor="rule"
              >
                <RouterLink to={`/material/along/${one.id}`}>{one.title}</RouterLink>
              </Link>
              <Text color="quiet">
                {lengthWords(one.lengthS)}
                {one.bpm === null ? ', no beats yet' : `, about ${bpm(Math.round(one.bpm))} beats a minute`}
              </Text>
            </Flex>
          ))}
        </Box>
      )}
    </>
  );
};
