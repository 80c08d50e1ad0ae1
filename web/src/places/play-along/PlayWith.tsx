import { Flex, Text } from '@chakra-ui/react';
import { alongside, barBeats, beatEvenness, beatsLeft, beatsOf, clampBpm, ownBpmOf } from '@isochron/core/material';
import { drillOf, practiceConfigOf } from '@isochron/core/planning';
import { type Accompaniment, type BeatsOf, practiceConfigKey } from '@isochron/core/schema';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { patchPracticeConfig } from '../../api/client';
import { usePassage, usePassages } from '../../api/queries/passages';
import { showPracticeConfig, usePracticeConfigs } from '../../api/queries/practice';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { playerMessage } from '../../app/report-error';
import { bpm } from '../../words';

/** How even the beats of a recording are, in a sentence. */
const evennessWords = ({ timesS }: BeatsOf): string => {
  const even = beatEvenness(timesS);
  if (!even) return 'Fewer than four beats: nothing is known of its tempo.';
  const [slow, fast] = [Math.round(even.slowestBpm), Math.round(even.fastestBpm)];
  const tempo =
    slow === fast ? `at ${slow} throughout` : `between ${slow} and ${fast}, ${bpm(Math.round(even.bpm))} on average`;
  return `${timesS.length} beats, ${tempo}. Single beats lie ${even.unsteadinessMs.toFixed(1)} ms off an even pulse, as they were found; what you play is given about that much more room.`;
};

/** What is played along with the recording, from which bar of it, and the way to the Bench. */
export const PlayWith = ({ accompaniment, beats }: { accompaniment: Accompaniment; beats: BeatsOf }) => {
  const { passages } = usePassages();
  const { practiceConfigs } = usePracticeConfigs();
  const { settings } = useSettings();
  const navigate = useNavigate();
  const [chosen, setChosen] = useState('');
  const bars = barBeats(beats);
  const [fromBeat, setFromBeat] = useState(beats.firstBarBeat);
  const [trouble, setTrouble] = useState('');
  const passageId = chosen || passages[0]?.id;
  const { passage } = usePassage(passageId);
  const config = passage && practiceConfigOf(practiceConfigs, passage, settings);
  const drill = passage && config && drillOf(passage, config);
  const at = bars.includes(fromBeat) ? fromBeat : (bars[0] ?? 0);
  const playAlong = drill && alongside(drill, { ...accompaniment, beats }, at, false)?.playAlong;
  const needed = drill ? Math.ceil(beatsOf(drill)) : 0;
  const left = beatsLeft({ beats }, at);
  const go = async () => {
    if (!passage || !config || !playAlong) return;
    try {
      showPracticeConfig(
        await patchPracticeConfig(practiceConfigKey(config), {
          playAlong: { accompanimentId: accompaniment.id, fromBeat: at, goalBpm: clampBpm(Math.round(ownBpmOf(playAlong))) },
        }),
      );
      await navigate(`/bench/${passage.id}?variant=${config.variantId}&section=${config.sectionId}`);
    } catch (error) {
      setTrouble(playerMessage(error));
    }
  };
  return (
    <>
      <Text maxWidth="80ch" marginBottom="14px" data-testid="evenness">
        {evennessWords(beats)}
      </Text>
      <Notice>{trouble}</Notice>
      <Flex gap="14px 24px" flexWrap="wrap" align="flex-end">
        <ChoiceField
          label="Play"
          value={passageId ?? ''}
          choices={passages.map(({ id, title }) => ({ value: id, name: title }))}
          onChange={setChosen}
        />
        <ChoiceField
          label="from its"
          width="150px"
          value={String(at)}
          choices={bars.map((beat, k) => ({ value: String(beat), name: `bar ${k + 1}` }))}
          onChange={(beat) => setFromBeat(Number(beat))}
        />
        <Action onClick={() => void go()} disabled={!playAlong}>
          To the Bench
        </Action>
      </Flex>
      <Text color="quiet" marginTop="8px" role="status" maxWidth="80ch">
        {!playAlong
          ? 'The recording has fewer than two beats after that bar.'
          : left < needed
            ? `That is ${needed} beats long, and the recording has ${left} from there: after them its last tempo goes on without it.`
            : `That is ${needed} beats long; the recording has ${left} from there. Along with it the goal is its own tempo there, ${bpm(Math.round(ownBpmOf(playAlong)))}; slower, it sounds at its own pitch.`}
      </Text>
    </>
  );
};
