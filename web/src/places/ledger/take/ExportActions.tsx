import { Flex } from '@chakra-ui/react';
import { onsetsOfRepetition } from '@isochron/core/analysis';
import { onsetsCsv, writeSmf } from '@isochron/core/material';
import type { Take } from '@isochron/core/schema';
import { Action } from '../../../app/Action';
import { saveAs } from '../../../app/save-as';

/** Takes a take out in open formats; its recording from where it may be fetched. */
export const ExportActions = ({ take, soundAddress }: { take: Take; soundAddress: string | null }) => {
  const stem = `${take.passageId}-${take.startedAt.slice(0, 16).replaceAll(':', '')}`;
  const midi = () => writeSmf(take.repetitions.flatMap(onsetsOfRepetition)) as Uint8Array<ArrayBuffer>;
  return (
    <Flex gap="12px" flexWrap="wrap">
      <Action quiet onClick={() => saveAs(`${stem}.csv`, 'text/csv', onsetsCsv(take.repetitions))}>
        Every note as CSV
      </Action>
      <Action quiet onClick={() => saveAs(`${stem}.mid`, 'audio/midi', midi())}>
        What was played as MIDI
      </Action>
      {soundAddress && (
        <Action quiet asChild>
          <a href={soundAddress} download={`${stem}.wav`}>
            The recording as WAV
          </a>
        </Action>
      )}
    </Flex>
  );
};
