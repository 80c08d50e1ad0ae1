import { Box, Flex, Link, Text } from '@chakra-ui/react';
import { FIRST_VARIANT, nowMs, type PassageSummary, WHOLE } from '@isochron/core/schema';
import { STRATEGIES } from '@isochron/core/strategy';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { usePassage, usePassages } from '../../api/queries/passages';
import { useHistory, usePassageRepetitions, usePracticeConfigs } from '../../api/queries/practice';
import { ChoiceField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { useDescribe } from '../../app/use-describe';
import { BothSidesLines } from '../../charts/BothSidesLines';
import { StrategyLinesChart } from '../../charts/StrategyLinesChart';
import { TempoCurveChart } from '../../charts/TempoCurveChart';
import type { TempoPart } from '../../workers/tempos';
import { useTempos } from '../../workers/use-tempos';
import { Notebook } from '../material/Notebook';
import { ProgressPart } from './ProgressPart';
import { WeeksPart } from './WeeksPart';

/** The strategy that each is compared with at first. */
const FIRST_COMPARED = ['half-speed-climb', 'adaptive'] as const;
const NONE = 'none';

/** Every variant of the whole, and every section with the first marks. */
const partsOf = ({ variants, sections }: PassageSummary): TempoPart[] => {
  const first = variants[0] ?? { id: FIRST_VARIANT, name: 'the whole' };
  const others = variants.slice(1);
  return [
    { variantId: first.id, sectionId: WHOLE, name: others.length ? first.name : 'the whole' },
    ...others.map(({ id, name }) => ({ variantId: id, sectionId: WHOLE, name })),
    ...sections.map(({ id, name }) => ({ variantId: first.id, sectionId: id, name })),
  ];
};

/** What the repetitions of a passage tell of its tempos, and what each tempo strategy would have made of them. */
export const TempoPage = () => {
  const { passageId = '' } = useParams();
  const say = useDescribe();
  const { passages, ...library } = usePassages();
  const { practiceConfigs } = usePracticeConfigs();
  const { repetitions, isLoading, message } = usePassageRepetitions(passageId);
  const history = useHistory(passageId);
  const { passage: whole } = usePassage(passageId);
  const passage = passages.find(({ id }) => id === passageId);
  const goalBpm = practiceConfigs.find((one) => one.passageId === passageId)?.goalBpm ?? passage?.goalBpm ?? 0;
  const parts = useMemo(() => (passage ? partsOf(passage) : []), [passage]);
  const { ask, orBroken } = useTempos();
  const [compared, setCompared] = useState<readonly string[]>(FIRST_COMPARED);
  const ready = !isLoading && parts.length > 0;
  const curves = useQuery({
    queryKey: ['tempo-curves', passageId, goalBpm, repetitions.length, repetitions.at(-1)?.takeId],
    queryFn: () => orBroken(ask.curves(parts, repetitions, goalBpm, nowMs())),
    enabled: ready,
  }).data;
  const strategies = useQuery({
    queryKey: ['tempo-strategies', passageId, goalBpm, repetitions.length, repetitions.at(-1)?.takeId],
    queryFn: () => orBroken(ask.strategies(parts[0] as TempoPart, repetitions, goalBpm)),
    enabled: ready,
  }).data;
  const title = passage?.title ?? 'Tempo';
  useEffect(() => {
    document.title = `Tempo of ${title} · Isochron`;
  }, [title]);
  const trouble = library.message || message;
  const shown = curves?.curves.filter(({ points }, k) => k === 0 || points.length > 0) ?? [];
  return (
    <>
      <PageTitle title={`Tempo of ${title}`}>
        From your repetitions; recent ones count most.{' '}
        <Link asChild color="now" textDecoration="underline" className="not-printed">
          <RouterLink to="/ledger">Back to the Ledger</RouterLink>
        </Link>{' '}
        <Link asChild color="now" textDecoration="underline" className="not-printed">
          <RouterLink to={`/bench/${passageId}`}>Practise it</RouterLink>
        </Link>
      </PageTitle>
      <Notice>{trouble || (!library.isLoading && !passage ? 'There is no such passage. Choose one in Material.' : '')}</Notice>
      {!trouble && passage && !curves && <Text role="status">Working it out …</Text>}
      {shown.map((curve) => (
        <Part key={`${curve.part.variantId}.${curve.part.sectionId}`} title={`How fast: ${curve.part.name}`}>
          <Box fontSize="19px" marginBottom="8px" data-testid="curve-words">
            {curve.sentences.map((sentence) => (
              <Text key={sentence.code}>{say(sentence)}</Text>
            ))}
          </Box>
          <TempoCurveChart curve={curve} goalBpm={goalBpm} title={`${title}, ${curve.part.name}`} />
          {curve.points.length > 0 && (
            <Text color="quiet" fontSize="16px" className="not-printed">
              Each dot is a repetition: full ones were clean, open ones were not, paler ones are older. The bands are 90 %
              intervals.
            </Text>
          )}
        </Part>
      ))}
      {shown
        .filter(({ sidesWhy }) => sidesWhy)
        .map(({ part, sides, sidesWhy }) => (
          <Part key={`${part.variantId}.${part.sectionId}`} title={`From both sides: ${part.name}`}>
            <Text fontSize="19px" data-testid="both-sides">
              {sidesWhy && say(sidesWhy)}
            </Text>
            <BothSidesLines days={sides} title={`${title}, ${part.name}`} />
          </Part>
        ))}
      {passage && <ProgressPart key={`over time ${passage.id}`} passageId={passage.id} parts={parts} goalBpm={goalBpm} />}
      {passage && <WeeksPart key={passage.id} passage={passage} history={history} />}
      {curves?.compared && (
        <Part title="Two ways to play it">
          <Text fontSize="19px" data-testid="compared">
            {say(curves.compared)}
          </Text>
        </Part>
      )}
      {whole && (
        <Part title="The notebook" onScreen>
          <Notebook passageId={whole.id} bars={whole.bars} firstBarNumber={whole.firstBarNumber} readOnly />
        </Part>
      )}
      {strategies && strategies.lines.length > 0 && (
        <Part title="What each tempo plan would have asked for" onScreen>
          {strategies.sentence && (
            <Text fontSize="19px" marginBottom="8px" maxWidth="80ch" data-testid="strategies-sentence">
              {say(strategies.sentence)}
            </Text>
          )}
          <Flex gap="14px 34px" flexWrap="wrap" marginBottom="8px">
            {[0, 1].map((place) => (
              <ChoiceField
                key={place}
                label={place === 0 ? 'Tempo plan' : 'And'}
                value={compared[place] ?? NONE}
                choices={[
                  ...(place === 0 ? [] : [{ value: NONE, name: 'none' }]),
                  ...strategies.lines.map(({ id, name }) => ({ value: id, name })),
                ]}
                onChange={(id) => setCompared(compared.map((one, k) => (k === place ? id : one)))}
              />
            ))}
          </Flex>
          <StrategyLinesChart played={strategies.played} lines={strategies.lines} chosen={new Set(compared)} title={title} />
          <Text color="quiet" fontSize="16px" maxWidth="80ch">
            The dark line is what was played. Each other line is the tempo that its plan would have asked for next, after what
            was really played until then; how it would have gone on from there nobody knows.
            {compared
              .flatMap((id) => STRATEGIES.find((strategy) => strategy.id === id)?.about ?? [])
              .map((about) => ` ${about}`)
              .join('')}
          </Text>
        </Part>
      )}
    </>
  );
};
