import { Text } from '@chakra-ui/react';
import { playedShares, totals } from '@isochron/core/planning';
import { dayAt, dayIndex, localDay, now } from '@isochron/core/schema';
import { useState } from 'react';
import { usePractice } from '../../api/queries/practice';
import { ChoiceField } from '../../app/fields';
import { Part } from '../../app/Page';
import { WeekBars } from '../../charts/WeekBars';
import { minutes } from '../../words';

/** How far back, and bars of what. */
const SPANS = {
  days: { name: 'four weeks, by day', days: 28, by: 'day' },
  weeks: { name: 'half a year, by week', days: 182, by: 'week' },
  years: { name: 'three years, by week', days: 1095, by: 'week' },
} as const;
type Span = keyof typeof SPANS;

/** How much was played of everything, slow and fast, by day or week. */
export const TotalsPart = () => {
  const [span, setSpan] = useState<Span>('weeks');
  const { days: back, by, name } = SPANS[span];
  const today = localDay(now());
  const { practice } = usePractice({ from: dayAt(dayIndex(today) - back) });
  const { slowS, fastS } = playedShares(practice.days, today);
  const bars = totals(practice.days, by);
  const lately = slowS + fastS;
  return (
    <Part title="How much">
      <ChoiceField<Span>
        label="Shown"
        width="220px"
        value={span}
        choices={Object.entries(SPANS).map(([value, one]) => ({ value: value as Span, name: one.name }))}
        onChange={setSpan}
      />
      {bars.length > 0 && <WeekBars totals={bars} title={`All playing, ${name}`} />}
      <Text data-testid="totals">
        {lately > 0
          ? `In the last seven days ${minutes(lately)} minutes from downbeat to downbeat, ${Math.round((100 * slowS) / lately)} % of them slow.`
          : 'Nothing in the last seven days.'}
      </Text>
    </Part>
  );
};
