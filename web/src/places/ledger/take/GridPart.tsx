import { Box, Text } from '@chakra-ui/react';
import type { GridRepetitions } from '@isochron/core/analysis';
import type { Take } from '@isochron/core/schema';
import { useState } from 'react';
import { Action } from '../../../app/Action';
import { Part } from '../../../app/Page';
import { useDescribe } from '../../../app/use-describe';
import { Strip } from '../../../strip/Strip';
import { BesideFinding } from './BesideFinding';
import { NotesParts } from './NotesParts';
import { PlayAlongWords } from './PlayAlongWords';
import { useAcross } from './use-across';

/** So many repetitions stand on one screen with what was found in them. */
const SHOWN = 6;

interface Props {
  take: Take;
  played: GridRepetitions;
  /** Plays the recording from a moment on, in seconds; left out where there is nothing to hear. */
  onHear?: (timeS: number) => void;
  /** The drill that it is of, where the take has others before it: a part of the page by itself. */
  partTitle?: string;
}

/** What a take's repetitions of one grid say together: a finding in one sentence, their strip, then what it rests on. */
export const GridPart = ({ take, played, onHear, partTitle }: Props) => {
  const say = useDescribe();
  const [showsAll, setShowsAll] = useState(false);
  const found = useAcross(take, played);
  const { grid, repetitions } = played;
  const drawn = (
    <Box marginTop="10px">
      <Text fontFamily="heading" fontSize="24px" lineHeight="1.3" maxWidth="60ch" minHeight="1.3em" data-testid="finding">
        {found.isKnown && say(found.finding)}
      </Text>
      <Strip
        title={take.title}
        grid={grid}
        repetitions={showsAll ? repetitions : repetitions.slice(-SHOWN)}
        tolerance={take.tolerance}
        calibrated={take.latencyS !== null}
        onPlay={onHear && ((_repetition, timeS) => onHear(timeS))}
      />
      {repetitions.length > SHOWN && !showsAll && (
        <Action quiet fontSize="16px" className="not-printed" onClick={() => setShowsAll(true)}>
          All {repetitions.length} repetitions
        </Action>
      )}
      <PlayAlongWords take={take} repetition={repetitions.at(-1)} />
      {found.isKnown && <BesideFinding take={take} grid={grid} found={found} />}
      <NotesParts take={take} grid={grid} found={found} isListed={!partTitle} />
    </Box>
  );
  if (!partTitle) return drawn;
  return (
    <Part title={partTitle} id={`drill-${repetitions[0]?.index}`}>
      {drawn}
    </Part>
  );
};
