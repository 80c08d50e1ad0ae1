import type { TempoHistory as Days } from '@isochron/core/schema';
import { DAY_MS } from '@isochron/core/schema';
import { useDates } from '../app/use-dates';
import { bpm } from '../words';
import { TimeLines } from './TimeLines';

const YEAR_DAYS = 365;

/** The tempo history of one passage: the best clean tempo of each day over time, with the goal. */
export const TempoHistoryChart = ({ history, goalBpm, title }: { history: Days; goalBpm: number; title: string }) => {
  const { short, shortYear } = useDates();
  const [first, last] = [history[0], history.at(-1)];
  if (!first || !last || history.length < 2)
    return <p>The tempo history begins with the second day that has a clean repetition.</p>;
  const points = history.map(({ day, bestCleanBpm }) => ({ at: new Date(day), value: bestCleanBpm }));
  const date = Date.parse(last.day) - Date.parse(first.day) > YEAR_DAYS * DAY_MS ? shortYear : short;
  return (
    <TimeLines
      lines={[{ name: `best clean ${bpm(last.bestCleanBpm)}`, points, look: 'main' }]}
      level={{ value: goalBpm, name: `goal ${bpm(goalBpm)}` }}
      unit="bpm"
      alsoValues={history.map(({ startBpm }) => startBpm)}
      summary={`${title}: best clean tempo ${bpm(first.bestCleanBpm)} on ${date(new Date(first.day))}, ${bpm(last.bestCleanBpm)} on ${date(new Date(last.day))}, goal ${bpm(goalBpm)}, ${history.length} days.`}
    />
  );
};
