import { Flex, Text } from '@chakra-ui/react';
import type { Estimate } from '@isochron/core/analysis';
import type { Measures } from '@isochron/core/schema';
import { memo } from 'react';
import { estimateWords, figure, signed } from '../../words';

const plain = (value: number): string => value.toFixed(1).replace('-', '−');

const margin = (estimate: Estimate | null): string =>
  estimate?.low == null || estimate.high == null || estimate.value === 0
    ? ''
    : `${plain(estimate.low)} to ${plain(estimate.high)}`;

/** The measures of one repetition in a row, each with the range it is known to. */
export const Figures = memo(({ measures, calibrated }: { measures: Measures; calibrated: boolean }) => {
  const items = [
    { name: 'accuracy', value: figure(measures.accuracyPct, '%', 0), range: '' },
    { name: 'spread', value: estimateWords(measures.spreadMs, 'ms'), range: margin(measures.spreadMs) },
    { name: 'unevenness', value: estimateWords(measures.unevennessPct, '%'), range: margin(measures.unevennessPct) },
    {
      name: calibrated ? 'placement' : 'placement (relative)',
      value: `${signed(measures.placementMs?.value)}\u00a0ms`,
      range: margin(measures.placementMs),
    },
    { name: 'drift', value: `${signed(measures.driftPct)}\u00a0%`, range: '' },
    { name: 'missed', value: String(measures.missed), range: '' },
    { name: 'extra', value: String(measures.extra), range: '' },
    ...(measures.swing ? [{ name: 'swing', value: figure(measures.swing.value, 'to 1'), range: margin(measures.swing) }] : []),
    ...(measures.returnMs == null ? [] : [{ name: 'over the gap', value: `${signed(measures.returnMs)}\u00a0ms`, range: '' }]),
    ...(measures.groupStartsMs == null
      ? []
      : [{ name: 'group starts', value: figure(measures.groupStartsMs, 'ms'), range: '' }]),
    ...(measures.insideMs == null ? [] : [{ name: 'inside groups', value: figure(measures.insideMs, 'ms'), range: '' }]),
    ...(measures.letGo ? [{ name: 'let go early', value: String(measures.letGo), range: '' }] : []),
    ...(measures.wrongNotes ? [{ name: 'wrong notes', value: String(measures.wrongNotes), range: '' }] : []),
  ];
  return (
    <Flex
      as="dl"
      order={{ base: 3, md: 0 }}
      gap={{ base: '10px 22px', md: '30px' }}
      flexWrap="wrap"
      aria-label="Measures of the last repetition"
      data-testid="figures"
    >
      {items.map(({ name, value, range }) => (
        <div key={name}>
          <Text as="dt" fontSize="16px" color="quiet">
            {name}
          </Text>
          <Text
            as="dd"
            fontFamily="heading"
            fontSize={{ base: '24px', md: '30px' }}
            lineHeight="1.15"
            data-figure={name.split(' ')[0]}
          >
            {value}
            {range && (
              <Text as="span" display="block" fontFamily="body" fontSize="14px" color="quiet">
                {range}
              </Text>
            )}
          </Text>
        </div>
      ))}
    </Flex>
  );
});
