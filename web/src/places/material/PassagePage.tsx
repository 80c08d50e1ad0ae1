import { Text } from '@chakra-ui/react';
import { barNamesOf, canSwing } from '@isochron/core/material';
import { variantGrid } from '@isochron/core/planning';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useLibrary, usePassage } from '../../api/queries/passages';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { usePageKeys } from '../../app/use-page-keys';
import { changePassage as change, useEditor } from '../../stores/editor';
import { Strip } from '../../strip/Strip';
import { BarFrame, FRAME_ID } from './BarFrame';
import { DangerPart } from './DangerPart';
import { HearIt } from './HearIt';
import { LibraryPart } from './LibraryPart';
import { MarkRow } from './MarkRow';
import { Notebook } from './Notebook';
import { NotesAsText } from './NotesAsText';
import { NOTE_HELP } from './note-keys';
import { PassageBasics } from './PassageBasics';
import { PassageHeader } from './PassageHeader';
import { PractisePart } from './PractisePart';
import { SimplifiedList } from './SimplifiedList';
import { MARK_HELP } from './typed-mark';
import { useAutosave } from './use-autosave';
import { useDangerSpots } from './use-danger-spots';
import { useMidiNotes } from './use-midi-notes';
import { useNoteEditing } from './use-note-editing';
import { useOpenPassage } from './use-open-passage';
import { useUndoKeys } from './use-undo-keys';

/** What is heard first, as a share of the goal. */
const HEARD_SHARE = 0.7;
const STAVES = [1, 2];

/** A passage's page: its notation with marks, its variants and sections, what may go wrong in it, its notebook, and ways in and out. */
export const PassagePage = () => {
  const { passageId = '' } = useParams();
  const isNew = passageId === 'new';
  const { passage: stored, isLoading, message } = usePassage(isNew ? undefined : passageId);
  const { passages } = useLibrary();
  const { settings } = useSettings();
  const passage = useEditor((editor) => editor.passage);
  const { saving, trouble } = useAutosave(stored);
  useOpenPassage(isNew, stored, saving);
  useUndoKeys();
  const navigate = useNavigate();
  const keys = useMemo(() => {
    const toBench = () => void navigate(`/bench/${passageId}`);
    return { Enter: toBench, PageDown: toBench };
  }, [navigate, passageId]);
  usePageKeys(keys);
  const [variantId, setVariantId] = useState('');
  const [current, setCurrent] = useState(0);

  const variant = passage?.variants.find(({ id }) => id === variantId) ?? passage?.variants[0] ?? null;
  const grid = useMemo(() => (passage ? variantGrid(passage, variant?.id) : null), [passage, variant]);
  const swings = useMemo(() => grid !== null && canSwing(grid), [grid]);
  const [isFrameOpen, setFrameOpen] = useState(false);
  const openFrame = () => {
    setFrameOpen(true);
    // Drawn by then.
    setTimeout(() => document.querySelector<HTMLElement>(`#${FRAME_ID} select`)?.focus());
  };
  const midi = useMidiNotes((place, pitch) => editing.act(place.event, place.staff, { pitch }));
  const editing = useNoteEditing(passage, grid, variant?.id, { frame: openFrame, midi: midi.toggle });
  const dangers = useDangerSpots(grid, passage?.goalBpm ?? 0, passage?.instrumentId);
  const spots = useMemo(() => new Set(dangers.map(({ index }) => index)), [dangers]);
  const barNames = useMemo(() => (passage ? barNamesOf(passage) : []), [passage]);

  if (message) return <Notice>{message}</Notice>;
  if (isLoading || (!passage && (isNew || stored))) return <Text>Fetching the passage …</Text>;
  if (!passage || !grid) {
    return (
      <>
        <PageTitle title="No such passage" />
        <Notice>Choose one in Material.</Notice>
      </>
    );
  }
  return (
    <>
      <PassageHeader passage={passage} saving={saving} />
      <Notice>{trouble}</Notice>
      <SimplifiedList />
      <PassageBasics passage={passage} variant={variant} swings={swings} onChange={change} onVariant={setVariantId}>
        <Action quiet aria-expanded={isFrameOpen} onClick={() => setFrameOpen(!isFrameOpen)}>
          Meter, key, clef
        </Action>
      </PassageBasics>
      {isFrameOpen && <BarFrame passage={passage} grid={grid} current={current} />}
      <Text fontSize="15px" color="quiet" marginTop="10px">
        Marks under the notes: {MARK_HELP}. The note itself: {NOTE_HELP}.
      </Text>
      <Text role="status" fontSize="15px" fontWeight="600">
        {editing.fromBar !== null &&
          `Bars from ${barNames[editing.fromBar]} on: go to the last of them and press Ctrl with C or X.`}
        {midi.isListening &&
          'Strike a key of your MIDI instrument: it becomes the note that is marked, and the next one is marked. G ends it.'}
      </Text>
      <Strip
        title={passage.title}
        grid={grid}
        repetitions={[]}
        tolerance={settings.tolerance}
        calibrated={false}
        notationOnly
        spots={spots}
        barNumbers={barNames}
        under={(system) =>
          STAVES.slice(0, grid.staves.length).map((staff) => (
            <MarkRow
              key={staff}
              grid={grid}
              system={system}
              staff={staff}
              current={current}
              onReach={setCurrent}
              editing={editing}
            />
          ))
        }
      />
      <NotesAsText />
      <Part title="Hear it">
        <HearIt grid={grid} firstBpm={Math.round(passage.goalBpm * HEARD_SHARE)} />
      </Part>
      <PractisePart passage={passage} variant={variant} swings={swings} onChange={change} />
      <DangerPart passage={passage} variant={variant} dangers={dangers} isStored={!isNew} />
      <Part title="Notebook">
        <Notebook passageId={passage.id} bars={passage.bars} firstBarNumber={passage.firstBarNumber} />
      </Part>
      {!isNew && <LibraryPart passage={passage} summary={passages.find(({ id }) => id === passageId)} />}
    </>
  );
};
