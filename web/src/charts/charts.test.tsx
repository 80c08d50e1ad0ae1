import { ChakraProvider } from '@chakra-ui/react';
import type { Position } from '@isochron/core/analysis';
import { builtInPassage } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import type { Passage, PassageRepetitions } from '@isochron/core/schema';
import type { BothSides, StrategyLine } from '@isochron/core/strategy';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { system } from '../theme';
import type { DrawnCurve } from '../workers/tempos';
import { BothSidesLines } from './BothSidesLines';
import { DeviationHistogram } from './DeviationHistogram';
import { PositionProfile } from './PositionProfile';
import { StrategyLinesChart } from './StrategyLinesChart';
import { TempoCurveChart } from './TempoCurveChart';
import { TempoHistoryChart } from './TempoHistoryChart';
import { type TimeLine, TimeLines } from './TimeLines';

/** A chart as it is drawn at 1000 pixels, its styles left out. */
const drawn = (chart: ReactElement): string =>
  renderToStaticMarkup(
    <ChakraProvider value={system}>
      <QueryClientProvider client={new QueryClient()}>{chart}</QueryClientProvider>
    </ChakraProvider>,
  ).replace(/<style[^>]*>[\s\S]*?<\/style>/g, '');

const altOf = (markup: string): string => (/aria-label="([^"]*)"/.exec(markup) ?? [])[1] ?? '';
const labelsOf = (markup: string): string[] =>
  [...markup.matchAll(/<text[^>]*>([^<]*)<\/text>/g)].map(([, text]) => text as string);
const count = (markup: string, tag: string): number => markup.split(`<${tag} `).length - 1;
/** No coordinate is missing: a hole in a scale shows as NaN. */
const isWhole = (markup: string): boolean => !/NaN|undefined|Infinity/.test(markup);

const CURVE: DrawnCurve = {
  part: { variantId: 'first', sectionId: 'whole', name: 'the whole' },
  sentences: [],
  easy: { bpm: 80.2, low: 76, high: 84 },
  edge: { bpm: 101.6, low: 97, high: 106 },
  broke: { bpm: 108.4, low: 104, high: 112 },
  sides: [],
  sidesWhy: null,
  unsteadiness: [
    { bpm: 70, share: 0.4 },
    { bpm: 110, share: 1.2 },
  ],
  points: [
    { bpm: 70, share: 0.4, isClean: true, weight: 1 },
    { bpm: 90, share: 0.8, isClean: true, weight: 0.5 },
    { bpm: 110, share: 3.7, isClean: false, weight: 1 },
  ],
};

describe('the tempo curve', () => {
  const markup = drawn(<TempoCurveChart curve={CURVE} goalBpm={120} title="Wave" />);

  it('tells the same in words, and names its lines where they are', () => {
    expect(altOf(markup)).toBe('Tempo curve of Wave: 3 repetitions from 70 to 110; easy 80, edge 102, break 108.');
    expect(labelsOf(markup)).toEqual(expect.arrayContaining(['easy 80', 'edge 102', 'break 108', 'goal']));
    expect(isWhole(markup)).toBe(true);
  });

  it('draws every repetition, also one that is wilder than the picture is high', () => {
    expect(count(markup, 'circle')).toBe(3);
    const tops = [...markup.matchAll(/<circle[^>]*cy="([^"]*)"/g)].map(([, cy]) => Number(cy));
    // Nothing lies above the top line, where 200 % is.
    expect(Math.min(...tops)).toBeGreaterThanOrEqual(34);
  });

  it('says nothing of what is not known, and is not there without repetitions', () => {
    const unknown = drawn(
      <TempoCurveChart curve={{ ...CURVE, easy: null, edge: null, broke: null }} goalBpm={120} title="Wave" />,
    );
    expect(altOf(unknown)).toBe('Tempo curve of Wave: 3 repetitions from 70 to 110.');
    expect(drawn(<TempoCurveChart curve={{ ...CURVE, points: [] }} goalBpm={120} title="Wave" />)).not.toContain('<svg');
    const one = drawn(<TempoCurveChart curve={{ ...CURVE, points: CURVE.points.slice(0, 1) }} goalBpm={60} title="Wave" />);
    expect(isWhole(one)).toBe(true);
  });
});

describe('from both sides', () => {
  const days: BothSides[] = [
    { day: '2026-03-01', structuredBpm: 74, burstBpm: 132 },
    { day: '2026-03-20', structuredBpm: 92, burstBpm: 93.4 },
  ];

  it('tells the first day and the last, with labels that do not cover one another', () => {
    const markup = drawn(<BothSidesLines days={days} title="Wave" />);
    expect(altOf(markup)).toMatch(/on 1 Mar climbed to 74 and bursts at 132; on 20 Mar 92 and 93\.?4?\.$/);
    const ends = [...markup.matchAll(/<text[^>]*y="([^"]*)"[^>]*>(bursts|climbed to) \d+/g)].map(([, y]) => Number(y));
    expect(ends).toHaveLength(2);
    expect(Math.abs((ends[0] as number) - (ends[1] as number))).toBeGreaterThan(19.9);
    expect(isWhole(markup)).toBe(true);
  });

  it('needs two days', () => {
    expect(drawn(<BothSidesLines days={days.slice(0, 1)} title="Wave" />)).not.toContain('<svg');
  });
});

describe('what strategies would have asked for', () => {
  const played = [70, 75, 80].map((bpm) => ({ bpm })) as unknown as PassageRepetitions;
  const lines: StrategyLine[] = [
    { id: 'one', name: 'One way', askedBpm: [75, 80, 85], meanShare: 0.03 },
    { id: 'other', name: 'Another', askedBpm: [70, 70, 70], meanShare: -0.04 },
  ];

  it('draws and names those that are chosen, beside what was played', () => {
    const markup = drawn(<StrategyLinesChart played={played} lines={lines} chosen={new Set(['other'])} title="Wave" />);
    expect(labelsOf(markup)).toEqual(expect.arrayContaining(['played', 'Another']));
    expect(labelsOf(markup)).not.toContain('One way');
    expect(altOf(markup)).toContain('after each of 3 repetitions played between 70 and 80');
    expect(isWhole(markup)).toBe(true);
  });
});

describe('the tempo history', () => {
  const history = ['2026-01-05', '2026-02-01', '2026-03-01'].map((day, k) => ({
    day,
    bestCleanBpm: 70 + 10 * k,
    startBpm: 60,
  }));

  it('tells best tempos, days and the goal', () => {
    const markup = drawn(<TempoHistoryChart history={history} goalBpm={96} title="Wave" />);
    expect(altOf(markup)).toBe('Wave: best clean tempo 70 on 5 Jan, 90 on 1 Mar, goal 96, 3 days.');
    expect(isWhole(markup)).toBe(true);
  });

  it('says when it begins, where there is one day only', () => {
    expect(drawn(<TempoHistoryChart history={history.slice(0, 1)} goalBpm={96} title="Wave" />)).toContain(
      'begins with the second day',
    );
  });
});

describe('lines over time', () => {
  const at = (month: number) => new Date(`2026-0${month}-01`);
  const lines: TimeLine[] = [
    { name: 'edge', look: 'main', points: [1, 2, 3].map((k) => ({ at: at(k), value: 90 + k, low: 85, high: 99 })) },
    { name: 'easy', look: 'quiet', points: [1, 3].map((k) => ({ at: at(k), value: 90 + k })) },
    { name: 'came apart', look: 'marks', points: [{ at: at(2), value: 104, low: 100, high: 108 }] },
  ];

  it('are named where they end, one label clear of the other, and say what they show', () => {
    const markup = drawn(
      <TimeLines lines={lines} level={{ value: 94, name: 'goal 94' }} unit="bpm" summary="Tempos: edge 91, then 93." />,
    );
    expect(altOf(markup)).toBe('Tempos: edge 91, then 93.');
    const places = [...markup.matchAll(/<text[^>]*y="([\d.]+)"[^>]*>(edge|easy|came apart|goal 94)</g)].map(([, y]) =>
      Number(y),
    );
    expect(places).toHaveLength(4);
    const sorted = [...places].sort((a, b) => a - b);
    for (const [k, y] of sorted.slice(1).entries()) expect(y - (sorted[k] as number)).toBeGreaterThanOrEqual(16.9);
    expect(isWhole(markup)).toBe(true);
  });
});

describe('deviations', () => {
  it('are counted inside the tolerance as the words say', () => {
    const markup = drawn(<DeviationHistogram deviationsMs={[-30, -12, -3, 0, 4, 11.9, 12.1, 25]} windowMs={12} />);
    expect(altOf(markup)).toContain('Deviations of 8 notes: 5 lie within 12 ms');
    expect(altOf(markup)).toContain('from −30');
    expect(isWhole(markup)).toBe(true);
  });

  it('are told note by note, and notes that never sounded are left out', () => {
    const { grid } = firstDrill(builtInPassage('five-steps') as Passage);
    const profile: Position[] = grid.events.map((_, index) => ({
      index,
      count: index === 2 ? 0 : 5,
      meanMs: { value: index - 4, low: index - 6, high: index - 2 },
      sdMs: 3,
    })) as Position[];
    const markup = drawn(<PositionProfile grid={grid} profile={profile} />);
    expect(altOf(markup)).toContain('note 1 −4.0 ms, scatter 3.0 ms; note 2 −3.0 ms');
    expect(altOf(markup)).not.toContain('note 3 ');
    expect(isWhole(markup)).toBe(true);
  });
});
