import { Link, Text } from '@chakra-ui/react';
import { byGrid, type GridRepetitions, profileOf } from '@isochron/core/analysis';
import type { Gap, InputKind } from '@isochron/core/schema';
import { drillName } from '@isochron/core/words';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { useAgainstLastTime, useTake, useTakeSound } from '../../api/queries/takes';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { MeasureWords } from '../../app/MeasureWords';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { PageContents } from '../../app/PageContents';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';
import { bpm } from '../../words';
import { EnginePart } from './take/EnginePart';
import { ExportActions } from './take/ExportActions';
import { GridPart } from './take/GridPart';
import { NotePart } from './take/NotePart';
import { RepetitionTable } from './take/RepetitionTable';
import { useCorrections } from './take/use-corrections';

const Waveform = lazy(() => import('./take/Waveform').then((file) => ({ default: file.Waveform })));

const INPUT_WORDS: Record<InputKind, string> = {
  microphone: 'microphone',
  midi: 'MIDI',
  simulated: 'the simulated player',
  tap: 'tap pad',
  file: 'file',
  log: 'your own log',
};
const seconds = (timeS: number) => timeS.toFixed(1);

/** Where sound is missing from a recording, in words. */
const gapWords = (gaps: readonly Gap[]): string => {
  const named = gaps.slice(0, 5).map(({ fromS, toS }) => `${seconds(fromS)} to ${seconds(toS)} s`);
  const others = gaps.length - named.length;
  const more = others > 0 ? ` and at ${others} other ${others === 1 ? 'place' : 'places'}` : '';
  return `Sound is missing at ${named.join(', ')}${more}; silence stands there, and all other sound is at its own time.`;
};

/** One take: its finding, strip and sound, every figure, corrections by hand, and the way out in open formats. */
export const TakePage = () => {
  const { takeId = '' } = useParams();
  const { take, message } = useTake(takeId);
  const against = useAgainstLastTime(take);
  const say = useDescribe();
  const { settings } = useSettings();
  const { full } = useDates();
  const [wish, setWish] = useState<{ fromS: number } | null>(null);
  const { remark, ...corrections } = useCorrections(take);
  const sound = useTakeSound(takeId, take?.hasRecording ?? false);
  const played = useMemo(() => (take ? byGrid([take]) : []), [take]);
  if (message) return <Notice>{message}</Notice>;
  if (!take) return <Text>Fetching the take …</Text>;

  const profile = profileOf(take.profile);
  const nameOf = ({ repetitions }: GridRepetitions) => {
    const drill = take.drills[repetitions[0]?.drill ?? 0];
    return (drill && drillName(drill, settings)) || 'Another drill';
  };
  return (
    <>
      <PageTitle title={take.title}>
        {full(take.startedAt)}, heard by {INPUT_WORDS[take.input]}
        {take.sourceFile && ` “${take.sourceFile}”`}
        {profile.id !== 'any' && ` (${profile.name.toLowerCase()})`}, tolerance “{take.tolerance.preset}”, goal{' '}
        {bpm(take.goalBpm)}.{' '}
        <Link asChild color="now" textDecoration="underline" className="not-printed">
          <RouterLink to="/ledger">Back to the Ledger</RouterLink>
        </Link>{' '}
        <Link asChild color="now" textDecoration="underline" className="not-printed">
          <RouterLink to={`/ledger/${take.id}/beside`}>Beside another take</RouterLink>
        </Link>
      </PageTitle>
      {take.summary && take.input !== 'file' && (
        <Text fontSize="19px" data-testid="against">
          {against && say(against)} Next time it begins at {bpm(take.summary.nextStartBpm)}. {say(take.summary.nextStartWhy)}
        </Text>
      )}
      <PageContents title="Parts of this take">
        {played.map((group, k) => (
          <GridPart
            key={group.repetitions[0]?.index}
            take={take}
            played={group}
            partTitle={k > 0 ? nameOf(group) : undefined}
            onHear={take.hasRecording ? (fromS) => setWish({ fromS }) : undefined}
          />
        ))}
        <NotePart key={take.id} take={take} />
        <Part title="The recording" id="recording" onScreen>
          {take.hasRecording && !sound.address && !sound.message && <Text>Fetching the sound …</Text>}
          <Notice>{sound.message}</Notice>
          {sound.takeAsIs && (
            <Action quiet onClick={sound.takeAsIs}>
              Hear what is left of it
            </Action>
          )}
          {sound.address && (
            <Suspense fallback={<Text>Fetching the sound …</Text>}>
              <Waveform address={sound.address} wish={wish} repetitions={take.repetitions} gaps={take.gaps} {...corrections} />
            </Suspense>
          )}
          {!take.hasRecording && <Text color="quiet">This take was kept as figures only.</Text>}
          {take.gaps.length > 0 && <Text>{gapWords(take.gaps)}</Text>}
          <Text role="status" minHeight="1.6em" data-testid="edit-remark">
            {remark}
          </Text>
        </Part>
        <Part title="Every repetition" id="repetitions" onScreen>
          <RepetitionTable repetitions={take.repetitions} />
          <MeasureWords />
        </Part>
        <EnginePart take={take} />
        <Part title="Export" id="export" onScreen>
          <ExportActions take={take} soundAddress={sound.address} />
        </Part>
      </PageContents>
    </>
  );
};
