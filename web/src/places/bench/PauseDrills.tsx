import { Flex, Text } from '@chakra-ui/react';
import { drillsForSpot, headlineBpm } from '@isochron/core/material';
import { practiceModeName, type Selection, triedBefore } from '@isochron/core/planning';
import { now, type Passage } from '@isochron/core/schema';
import { hardPlace } from '@isochron/core/strategy';
import { useNotebook } from '../../api/queries/passages';
import { usePracticeConfig } from '../../api/queries/practice';
import { useTakes } from '../../api/queries/takes';
import { Action } from '../../app/Action';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';
import { usePageKeys } from '../../app/use-page-keys';
import { useBench } from '../../stores/bench';
import { Notebook } from '../material/Notebook';
import { usePractise } from './use-practise';

/** So much of what was tried is told. */
const TOLD = 3;

/**
 * While the loop pauses to think: what was tried before, and drills for the place that went wrong again and again, the first one by a single
 * key. What is chosen is written into the notebook with the tempo, so that another day can say how it went.
 */
export const PauseDrills = ({ passage, part }: { passage: Passage; part: Selection }) => {
  const say = useDescribe();
  const { day } = useDates();
  const { config } = usePracticeConfig(passage, part);
  const practise = usePractise();
  const { write } = useNotebook();
  const { takes } = useTakes({ passageId: passage.id, show: 'all', text: '', sort: 'startedAt', order: 'desc' });
  const loop = useBench((bench) => bench.loop);
  const send = useBench((bench) => bench.send);
  const drill = loop.drill;
  const section = passage.sections.find(({ id }) => id === part.sectionId) ?? { fromBar: 1, toBar: passage.bars };
  const place = drill && hardPlace(loop.repetitions, drill, section);
  const bars = place?.bars ?? section;
  const offered = place ? drillsForSpot(drill.grid.events.length, place.note) : [];
  const tried = triedBefore(takes, passage.sections, bars).slice(0, TOLD);
  const take = (k: number) => {
    const one = offered[k];
    if (!one) return;
    const at = now().toISOString();
    write({
      id: crypto.randomUUID(),
      passageId: passage.id,
      ...bars,
      text: say(one.why),
      atBpm: headlineBpm(loop.tempo),
      writtenAt: at,
      editedAt: at,
      removed: false,
    });
    send({ type: 'stop' });
    void practise(config, one.uses);
  };
  usePageKeys({ d: () => take(0) });
  return (
    <>
      {tried.length > 0 && (
        <Text fontSize="19px" data-testid="tried-before">
          Tried before:{' '}
          {tried
            .map(
              ({ practiceMode, takes: count, lastAt }) =>
                `${practiceModeName(practiceMode)}, ${count === 1 ? 'once' : `${count} times`}, last on ${day(lastAt)}`,
            )
            .join('; ')}
          .
        </Text>
      )}
      {offered.map(({ why }, k) => (
        <Flex key={why.code} gap="4px 18px" align="baseline" flexWrap="wrap" paddingY="4px" fontSize="19px">
          <Text flex="1" minWidth="240px">
            {say(why)}
          </Text>
          <Action quiet fontSize="16px" paddingY="2px" onClick={() => take(k)}>
            Practise this{k === 0 ? ' (D)' : ''}
          </Action>
        </Flex>
      ))}
      <Notebook passageId={passage.id} bars={passage.bars} firstBarNumber={passage.firstBarNumber} about={bars} />
    </>
  );
};
