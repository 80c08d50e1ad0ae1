import { Flex, Grid, Text } from '@chakra-ui/react';
import { BUILT_IN_INSTRUMENTS, instrumentOf, makePattern, PATTERNS, patternOf } from '@isochron/core/material';
import { passageGrid } from '@isochron/core/planning';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { usePassageWriter } from '../../api/queries/passages';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { OptionFields } from '../../app/OptionFields';
import { PageTitle } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { usePageKeys } from '../../app/use-page-keys';
import { Strip } from '../../strip/Strip';
import { HearIt } from './HearIt';
import { newPassageId } from './new-id';

/** Patterns are made, not listed: a generator, an instrument, its choices; what comes of it is seen and heard before it is kept. */
export const PatternsPage = () => {
  const { settings } = useSettings();
  const { store } = usePassageWriter();
  const navigate = useNavigate();
  const [chosen, setInstrumentId] = useState<string | null>(null);
  const [patternId, setPatternId] = useState('scale');
  const [parameters, setParameters] = useState<Record<string, Record<string, unknown>>>({});
  const [trouble, setTrouble] = useState('');
  const instrument = instrumentOf(chosen ?? settings.playsId, settings.instruments);
  const suited = PATTERNS.filter((pattern) => pattern.suits(instrument));
  const pattern = suited.some(({ id }) => id === patternId) ? patternOf(patternId) : (suited[0] ?? patternOf(patternId));
  const own = parameters[pattern.id] ?? {};
  const passage = useMemo(() => makePattern(pattern.id, own, instrument), [pattern.id, own, instrument]);
  const grid = useMemo(() => passageGrid(passage), [passage]);
  const read = pattern.parameters.safeParse(own);
  const keep = async () => {
    try {
      const id = newPassageId(passage.title);
      await store({ ...passage, id }, 0);
      await navigate(`/material/${id}`);
    } catch (error) {
      setTrouble(playerMessage(error));
    }
  };
  usePageKeys({ Enter: () => void keep() });
  return (
    <>
      <Flex justify="space-between" align="flex-end" gap="10px 24px" flexWrap="wrap">
        <div>
          <PageTitle title="Make a pattern">{pattern.about}</PageTitle>
        </div>
        <Action onClick={() => void keep()} marginBottom="22px">
          Keep it
        </Action>
      </Flex>
      <Notice>{trouble}</Notice>
      <Grid
        templateColumns={{ base: 'minmax(0, 1fr)', sm: 'repeat(auto-fill, minmax(200px, 1fr))' }}
        gap="14px 26px"
        alignItems="start"
        marginBottom="14px"
      >
        <ChoiceField
          label="Instrument"
          width="100%"
          value={instrument.id}
          choices={[...settings.instruments, ...BUILT_IN_INSTRUMENTS].map(({ id, name }) => ({ value: id, name }))}
          onChange={setInstrumentId}
        />
        <ChoiceField
          label="Pattern"
          width="100%"
          value={pattern.id}
          choices={suited.map(({ id, name }) => ({ value: id, name }))}
          onChange={setPatternId}
        />
        <OptionFields
          fields={pattern.fields(instrument)}
          values={read.success ? read.data : pattern.parameters.parse({})}
          onChange={(key, value) => setParameters({ ...parameters, [pattern.id]: { ...own, [key]: value } })}
        />
      </Grid>
      <Text fontFamily="heading" fontSize="22px">
        {passage.title}
      </Text>
      <Text color="quiet">{passage.about}</Text>
      <Strip
        title={passage.title}
        grid={grid}
        repetitions={[]}
        tolerance={settings.tolerance}
        calibrated={false}
        notationOnly
      />
      <HearIt grid={grid} firstBpm={Math.round(passage.goalBpm * 0.7)} />
    </>
  );
};
