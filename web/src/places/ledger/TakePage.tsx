import { Box, Link, Text } from '@chakra-ui/react';
import { byGrid, editRepetition, onsetsOfRepetition, profileOf, undoEdit } from '@isochron/core/analysis';
import { playAlongReason } from '@isochron/core/material';
import { askedBpm } from '@isochron/core/planning';
import type { Gap, InputKind, Repetition, Take } from '@isochron/core/schema';
import { withRepetition } from '@isochron/core/strategy';
import { useMutation } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { putRepetition } from '../../api/client';
import { refetchTake, shownTake, showTake, useTake, useTakeSound } from '../../api/queries/takes';
import { refreshFigures } from '../../api/queries/upkeep';
import { Action } from '../../app/Action';
import { MeasureWords } from '../../app/MeasureWords';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { useDates } from '../../app/use-dates';
import { useDescribe } from '../../app/use-describe';
import { Strip } from '../../strip/Strip';
import { bpm } from '../../words';
import { AcrossPart } from './take/AcrossPart';
import { EnginePart } from './take/EnginePart';
import { ExportActions } from './take/ExportActions';
import { NotePart } from './take/NotePart';
import { RepetitionTable } from './take/RepetitionTable';

const Waveform = lazy(() => import('./take/Waveform').then((file) => ({ default: file.Waveform })));

const INPUT_WORDS: Record<InputKind, string> = {
  microphone: 'microphone',
  midi: 'MIDI',
  simulated: 'the simulated player',
  tap: 'tap pad',
  file: 'file',
  log: 'your own log',
};
/** A correction belongs to the repetition it lies in; beyond this from all of them it belongs to none. */
const REACH_S = 1;
/** A note this near to the cursor can be removed. */
const NEAR_S = 0.1;
/** Level of a note added by hand where no other tells one. */
const PLAIN_LEVEL_DB = -20;

/** The repetition that a moment of the recording belongs to, or null. */
const repetitionAt = (repetitions: readonly Repetition[], timeS: number): Repetition | null => {
  const distance = ({ notes }: Repetition) => {
    const first = notes[0]?.expectedS ?? 0;
    const last = notes.at(-1)?.expectedS ?? 0;
    return Math.max(0, first - timeS, timeS - last);
  };
  const nearest = repetitions.reduce<Repetition | null>(
    (best, one) => (best === null || distance(one) < distance(best) ? one : best),
    null,
  );
  return nearest && distance(nearest) <= REACH_S ? nearest : null;
};

const seconds = (timeS: number) => timeS.toFixed(1);

/** Where sound is missing from a recording, in words. */
const gapWords = (gaps: readonly Gap[]): string => {
  const named = gaps.slice(0, 5).map(({ fromS, toS }) => `${seconds(fromS)} to ${seconds(toS)} s`);
  const others = gaps.length - named.length;
  const more = others > 0 ? ` and at ${others} other ${others === 1 ? 'place' : 'places'}` : '';
  return `Sound is missing at ${named.join(', ')}${more}; silence stands there, and all other sound is at its own time.`;
};

/** One repetition as it is after a correction by hand. */
interface Correction {
  corrected: Repetition;
}

/** What a recording that was played along with has to do with the figures of a repetition. */
const PlayAlongWords = ({ take, repetition }: { take: Take; repetition: Repetition | undefined }) => {
  const say = useDescribe();
  const playAlong = repetition && take.drills[repetition.drill]?.playAlong;
  if (!playAlong) return null;
  return (
    <Text color="quiet" maxWidth="80ch" data-testid="along">
      Last repetition: {say(playAlongReason(playAlong, askedBpm(repetition), repetition.measures.spreadMs?.value ?? null))}
    </Text>
  );
};

/** One take: its finding, strip and sound, every figure, corrections by hand, and the way out in open formats. */
export const TakePage = () => {
  const { takeId = '' } = useParams();
  const { take, message } = useTake(takeId);
  const say = useDescribe();
  const { full } = useDates();
  const [remark, setRemark] = useState('');
  const [wish, setWish] = useState<{ fromS: number } | null>(null);
  const sound = useTakeSound(takeId, take?.hasRecording ?? false);
  const played = useMemo(() => (take ? byGrid([take]) : []), [take]);
  const { mutate } = useMutation({
    // Each correction is of the take as it is once the one before it is stored.
    mutationFn: ({ corrected }: Correction) =>
      putRepetition(takeId, { takeRevision: shownTake(takeId)?.revision ?? 0, repetition: corrected }),
    scope: { id: `corrections of ${takeId}` },
  });

  if (message) return <Notice>{message}</Notice>;
  if (!take) return <Text>Fetching the take …</Text>;

  const replace = (corrected: Repetition, said: string) => {
    showTake(withRepetition(take, corrected));
    setRemark(said);
    mutate(
      { corrected },
      {
        onSuccess: ({ revision }) => {
          const now = shownTake(takeId);
          if (now) showTake({ ...now, revision });
          // Lists, configurations and plans go by what this take came to.
          void refreshFigures();
        },
        onError: async (error) => {
          showTake(take);
          // Said once it is true: what is shown is what is stored.
          await refetchTake(takeId);
          setRemark(`The correction was not kept: ${playerMessage(error)}`);
        },
      },
    );
  };
  /** Does something to the repetition at the cursor, or says that there is none. */
  const correct = (timeS: number, change: (repetition: Repetition) => void) => {
    const repetition = repetitionAt(take.repetitions, timeS);
    if (repetition) change(repetition);
    else setRemark('There is no repetition at the cursor: move it closer to one.');
  };
  const onAdd = (timeS: number) =>
    correct(timeS, (repetition) => {
      const levelDb = onsetsOfRepetition(repetition)[0]?.levelDb ?? PLAIN_LEVEL_DB;
      const edited = editRepetition(take, repetition, { kind: 'add', onset: { timeS, levelDb } });
      replace(edited, `A note was added to repetition ${repetition.index + 1}, and it was measured again.`);
    });
  const onRemove = (timeS: number) =>
    correct(timeS, (repetition) => {
      const onset = onsetsOfRepetition(repetition).reduce<ReturnType<typeof onsetsOfRepetition>[number] | null>(
        (best, one) => (best === null || Math.abs(one.timeS - timeS) < Math.abs(best.timeS - timeS) ? one : best),
        null,
      );
      if (!onset || Math.abs(onset.timeS - timeS) > NEAR_S) {
        setRemark('There is no note within a tenth of a second of the cursor.');
        return;
      }
      const edited = editRepetition(take, repetition, { kind: 'remove', onset });
      replace(edited, `A note was removed from repetition ${repetition.index + 1}, and it was measured again.`);
    });
  const onUndo = (timeS: number) =>
    correct(timeS, (repetition) => {
      if (!repetition.edits?.length) setRemark(`Nothing was corrected in repetition ${repetition.index + 1}.`);
      else replace(undoEdit(take, repetition), `The last correction of repetition ${repetition.index + 1} was undone.`);
    });

  const profile = profileOf(take.profile);
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
        <Text fontSize="19px">
          {take.summary.bestCleanBpm === null
            ? 'No clean repetition this time.'
            : `Best clean tempo ${bpm(take.summary.bestCleanBpm)}.`}{' '}
          Next time it begins at {bpm(take.summary.nextStartBpm)}. {say(take.summary.nextStartWhy)}
        </Text>
      )}
      {played.map((group) => (
        <Box key={group.repetitions[0]?.index} marginTop="14px">
          <Strip
            title={take.title}
            grid={group.grid}
            repetitions={group.repetitions}
            tolerance={take.tolerance}
            calibrated={take.latencyS !== null}
            onPlay={take.hasRecording ? (_repetition, timeS) => setWish({ fromS: timeS }) : undefined}
          />
          <PlayAlongWords take={take} repetition={group.repetitions.at(-1)} />
          <AcrossPart take={take} played={group} />
        </Box>
      ))}
      <NotePart key={take.id} take={take} />
      <Part title="The recording" onScreen>
        {take.hasRecording && !sound.address && !sound.message && <Text>Fetching the sound …</Text>}
        <Notice>{sound.message}</Notice>
        {sound.takeAsIs && (
          <Action quiet onClick={sound.takeAsIs}>
            Hear what is left of it
          </Action>
        )}
        {sound.address && (
          <Suspense fallback={<Text>Fetching the sound …</Text>}>
            <Waveform
              address={sound.address}
              wish={wish}
              repetitions={take.repetitions}
              gaps={take.gaps}
              onAdd={onAdd}
              onRemove={onRemove}
              onUndo={onUndo}
            />
          </Suspense>
        )}
        {!take.hasRecording && <Text color="quiet">This take was kept as figures only.</Text>}
        {take.gaps.length > 0 && <Text>{gapWords(take.gaps)}</Text>}
        <Text role="status" minHeight="1.6em" data-testid="edit-remark">
          {remark}
        </Text>
      </Part>
      <Part title="Every repetition" onScreen>
        <RepetitionTable repetitions={take.repetitions} />
        <MeasureWords />
      </Part>
      <EnginePart take={take} />
      <Part title="Export" onScreen>
        <ExportActions take={take} soundAddress={sound.address} />
      </Part>
    </>
  );
};
