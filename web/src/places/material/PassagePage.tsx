import { Box, Flex, Input, Text, Textarea } from '@chakra-ui/react';
import {
  BUILT_IN_INSTRUMENTS,
  dangerSpots,
  forInstrument,
  foundSections,
  instrumentOf,
  type Marks,
  type Passage,
  type PracticeConfig,
  practiceConfigOf,
  rewritten,
  TempoSchema,
  variantGrid,
  withHandsSwapped,
  withMark,
  withSections,
  withVariant,
} from '@isochron/core';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { useLibrary, usePassage, usePracticeConfigs } from '../../api/queries';
import { useSettings } from '../../api/settings';
import { Action } from '../../app/Action';
import { ChoiceField, NumberField } from '../../app/fields';
import { Notice } from '../../app/Notice';
import { PageTitle, Part } from '../../app/Page';
import { playerMessage } from '../../app/report-error';
import { useDescribe } from '../../app/use-describe';
import { usePageKeys } from '../../app/use-page-keys';
import { openEditor, readDraft, redo, undo, useEditor } from '../../stores/editor';
import { Strip } from '../../strip/Strip';
import { usePractise } from '../bench/use-practise';
import { ConfigLine } from './ConfigLine';
import { HearIt } from './HearIt';
import { LibraryPart } from './LibraryPart';
import { MarkRow } from './MarkRow';
import { Notebook } from './Notebook';
import { newPassageId } from './new-id';
import { SectionMaker } from './SectionMaker';
import { SectionTime } from './SectionTime';
import { MARK_HELP } from './typed-mark';
import { useAutosave } from './use-autosave';
import { useScores } from './use-scores';

const STARTING_TEXT = 'title: New passage\nmeter: 4/4\nkey: C\ntempo: 100\n\nC4/8 D E F G F E D | C/1 |\n';

/** The share of its goal at which a configuration was clean last; 0 where it never was. */
const reached = ({ last, goalBpm }: PracticeConfig): number => (last?.summary.bestCleanBpm ?? 0) / goalBpm;

/** A passage's page: its notation with marks, its variants and sections, what may go wrong in it, its notebook, and ways in and out. */
export const PassagePage = () => {
  const { passageId = '' } = useParams();
  const isNew = passageId === 'new';
  const { passage: stored, isLoading, message } = usePassage(isNew ? undefined : passageId);
  const { passages } = useLibrary();
  const { practiceConfigs } = usePracticeConfigs();
  const { settings } = useSettings();
  const scores = useScores();
  const say = useDescribe();
  const practise = usePractise();
  const navigate = useNavigate();
  const { state } = useLocation();
  const simplified: readonly string[] = (state as { simplified?: string[] } | null)?.simplified ?? [];
  const { passage, text, trouble: unread } = useEditor();
  const { saving, trouble } = useAutosave(stored);
  const [variantId, setVariantId] = useState('');
  const [current, setCurrent] = useState(0);
  const summary = passages.find(({ id }) => id === passageId);
  const own = useMemo(() => [...settings.instruments, ...BUILT_IN_INSTRUMENTS], [settings.instruments]);

  // A page opens with what was being written when it was left, else with what is stored.
  useEffect(() => {
    const open = async (from: Passage) => {
      const draft = readDraft(from.id);
      if (draft) {
        openEditor(draft.passage, draft.text, stored ? stored.revision : draft.from);
        return;
      }
      const written = from.text ?? new TextDecoder().decode(await scores.write(from, '.txt'));
      openEditor(from, written, stored?.revision ?? 0);
    };
    if (isNew) {
      const id = newPassageId('typed');
      void scores.readText(STARTING_TEXT, id).then(({ passage: first }) => {
        openEditor(
          forInstrument({ ...first, text: STARTING_TEXT }, instrumentOf(settings.playsId, settings.instruments)),
          STARTING_TEXT,
          0,
        );
      });
    } else if (stored && useEditor.getState().passage?.id !== stored.id) void open(stored);
  }, [isNew, stored, scores, settings.playsId, settings.instruments]);
  useEffect(() => () => useEditor.setState({ passage: null, text: '', trouble: '', from: 0 }), []);
  // A new passage has its address as soon as it is stored.
  useEffect(() => {
    if (isNew && passage && saving === 'saved' && useEditor.getState().from > 0)
      void navigate(`/material/${passage.id}`, { replace: true });
  }, [isNew, passage, saving, navigate]);

  const change = useCallback((next: Passage) => useEditor.setState({ passage: next }), []);
  const type = async (next: string) => {
    useEditor.setState({ text: next });
    const before = useEditor.getState().passage;
    if (!before) return;
    try {
      const read = await scores.readText(next, before.id);
      if (useEditor.getState().text !== next) return;
      useEditor.setState({ passage: { ...rewritten(before, read.passage), text: next }, trouble: '' });
    } catch (error) {
      if (useEditor.getState().text === next) useEditor.setState({ trouble: playerMessage(error) });
    }
  };

  const variant = passage?.variants.find(({ id }) => id === variantId) ?? passage?.variants[0] ?? null;
  const grid = useMemo(() => (passage ? variantGrid(passage, variant?.id) : null), [passage, variant]);
  const dangers = useMemo(() => (grid && passage ? dangerSpots(grid, passage.goalBpm) : []), [grid, passage]);
  const spots = useMemo(() => new Set(dangers.map(({ index }) => index)), [dangers]);
  const found = useMemo(() => (passage ? foundSections(passage) : []), [passage]);
  const barNumbers = useMemo(
    () => passage?.pageBars ?? (passage ? Array.from({ length: passage.bars }, (_, k) => passage.firstBarNumber + k) : []),
    [passage],
  );
  // Bars that are played again bear their number on the page, and which time it is.
  const barNames = useMemo(
    () =>
      barNumbers.map((number, k) => {
        const time = barNumbers.slice(0, k + 1).filter((one) => one === number).length;
        return time > 1 ? `${number} (${time})` : number;
      }),
    [barNumbers],
  );
  const mark = (event: number, marks: Partial<Marks>) => {
    const note = grid?.events[event]?.notes.at(-1);
    if (passage && note) change(withMark(passage, variant?.id ?? 'first', note.from, marks));
  };
  const keys = useMemo(
    () => ({ Enter: () => void navigate(`/bench/${passageId}`), PageDown: () => void navigate(`/bench/${passageId}`) }),
    [navigate, passageId],
  );
  usePageKeys(keys);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isField = (event.target as HTMLElement).closest('input, textarea') !== null;
      if (isField || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

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

  const instrument = instrumentOf(passage.instrumentId, settings.instruments);
  const partsPlayed = practiceConfigs.filter((config) => config.passageId === passage.id);
  const configTitle = ({ variantId: v, sectionId: s }: PracticeConfig): string => {
    const section = passage.sections.find(({ id }) => id === s)?.name;
    const marks = passage.variants.find(({ id }) => id === v)?.name;
    return [section ? `Section ${section}` : 'The whole', passage.variants.length > 1 && marks].filter(Boolean).join(', ');
  };
  // The hardest first, by how far each is from its goal: that is where the time belongs.
  const sectionConfigs = passage.sections
    .map((section) => practiceConfigOf(practiceConfigs, passage, settings, { sectionId: section.id, variantId: variant?.id }))
    .sort((a, b) => reached(a) - reached(b));
  const listed = [
    practiceConfigOf(practiceConfigs, passage, settings, { variantId: variant?.id }),
    ...sectionConfigs,
    ...partsPlayed.filter((config) => config.variantId !== variant?.id),
  ];
  const [wholeConfig] = listed;

  return (
    <>
      <Flex justify="space-between" align="flex-start" gap="10px 24px" flexWrap="wrap">
        <Box maxWidth="720px">
          <PageTitle title={passage.title} />
          {passage.about && <Text color="quiet">{passage.about}</Text>}
        </Box>
        <Flex gap="10px" flexWrap="wrap" align="center">
          <Text color="quiet" fontSize="15px" role="status" data-testid="saving">
            {saving === 'saved' ? 'stored' : saving === 'saving' ? 'storing …' : 'kept in the browser'}
          </Text>
          <Action quiet onClick={undo} aria-label="Undo the last change">
            Undo
          </Action>
          <Action quiet onClick={redo} aria-label="Redo what was undone">
            Redo
          </Action>
          <Action onClick={() => void navigate(`/bench/${passage.id}`)}>To the Bench</Action>
        </Flex>
      </Flex>
      <Notice>{trouble}</Notice>
      {simplified.length > 0 && (
        <Box borderLeft="4px solid" borderColor="now" paddingLeft="14px" marginY="12px">
          <Text fontWeight="600">Taken over with these changes:</Text>
          <ul style={{ paddingLeft: '18px', listStyle: 'disc' }}>
            {simplified.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </Box>
      )}
      <Flex gap="14px 26px" flexWrap="wrap" align="flex-end" marginTop="14px">
        <ChoiceField
          label="Written for"
          width="240px"
          value={instrument.id}
          choices={own.map(({ id, name }) => ({ value: id, name }))}
          onChange={(id) => change(forInstrument(passage, instrumentOf(id, settings.instruments)))}
        />
        <NumberField
          label="Goal"
          value={passage.goalBpm}
          schema={TempoSchema}
          onChange={(goalBpm) => change({ ...passage, goalBpm })}
          width="100px"
        />
        {passage.variants.length > 0 && (
          <ChoiceField
            label="Marks"
            width="240px"
            value={variant?.id ?? ''}
            choices={passage.variants.map(({ id, name }) => ({ value: id, name }))}
            onChange={setVariantId}
          />
        )}
        <Action
          quiet
          onClick={() => {
            const id = `v-${crypto.randomUUID().slice(0, 6)}`;
            change(withVariant(passage, variant?.id ?? 'first', id, `another way ${passage.variants.length}`));
            setVariantId(id);
          }}
        >
          Another way to play it
        </Action>
        {variant && Object.values(variant.marks).some(({ hand, stroke }) => hand || stroke) && (
          <Action quiet onClick={() => change(withHandsSwapped(passage, variant.id))}>
            Swap hands and strokes
          </Action>
        )}
      </Flex>
      {variant && (
        <Flex align="center" gap="10px" marginTop="8px">
          <Text fontSize="15px" color="quiet" as="label" id="variant-name">
            Name of these marks
          </Text>
          <Input
            aria-labelledby="variant-name"
            width="260px"
            size="sm"
            value={variant.name}
            maxLength={80}
            borderColor="quiet"
            onChange={(event) => {
              const name = event.target.value;
              if (name !== '')
                change({
                  ...passage,
                  variants: passage.variants.map((one) => (one.id === variant.id ? { ...one, name } : one)),
                });
            }}
          />
        </Flex>
      )}
      <Text fontSize="15px" color="quiet" marginTop="10px">
        {MARK_HELP}
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
        under={(system) => <MarkRow grid={grid} system={system} current={current} onReach={setCurrent} onMark={mark} />}
      />
      <Part title="Notes as text">
        <Textarea
          aria-label="The notes as text"
          value={text}
          onChange={(event) => void type(event.target.value)}
          rows={Math.min(16, Math.max(6, text.split('\n').length + 1))}
          fontFamily="monospace"
          fontSize="16px"
          spellCheck={false}
          borderColor="quiet"
          borderRadius="control"
        />
        <Text role="status" minHeight="1.5em" fontWeight="600">
          {unread}
        </Text>
        <Text color="quiet" fontSize="15px" maxWidth="90ch">
          C4/8 is a note with its octave and value; what is left out stays as it was. r/4 rest, x/8 no pitch, C4+E4 chord, | bar
          line, |: :| repeat, C4/4~ tie, &gt; accent, ' short, 3:2[ … ] triplet, C4@3 finger, @R @L hand, @up @down stroke.
        </Text>
      </Part>
      <Part title="Hear it">
        <HearIt grid={grid} firstBpm={Math.round(passage.goalBpm * 0.7)} />
      </Part>
      <Part title="Practise">
        {listed.map((config) => (
          <ConfigLine
            key={`${config.variantId}.${config.sectionId}`}
            passage={passage}
            config={config}
            title={configTitle(config)}
          />
        ))}
        <SectionTime passage={passage} />
        {found.length > 0 && (
          <Flex gap="10px 18px" align="center" flexWrap="wrap" marginTop="10px">
            <Text>
              Bars that repeat:{' '}
              {found
                .map(
                  ({ name, fromBar, toBar }) =>
                    `${name} (${fromBar === toBar ? barNumbers[fromBar - 1] : `${barNumbers[fromBar - 1]}–${barNumbers[toBar - 1]}`})`,
                )
                .join(', ')}
              . What repeats exactly needs its practice only once.
            </Text>
            <Action
              quiet
              onClick={() =>
                change(
                  withSections(
                    passage,
                    found
                      .filter(({ repeats }) => !repeats)
                      .map(({ name, fromBar, toBar }) => ({ id: `bars-${fromBar}-${toBar}`, name, fromBar, toBar })),
                  ),
                )
              }
            >
              Take these as sections
            </Action>
          </Flex>
        )}
        <SectionMaker passage={passage} onChange={change} barNumbers={barNumbers} />
      </Part>
      {dangers.length > 0 && (
        <Part title="Where it may go wrong">
          <ul style={{ paddingLeft: '18px', listStyle: 'disc' }}>
            {dangers.slice(0, 8).map(({ index, why, drill }) => (
              <li key={index}>
                {say(why)}{' '}
                {!isNew && wholeConfig && (
                  <Action
                    quiet
                    fontSize="15px"
                    paddingY="0"
                    aria-label={`Practise note ${index} to ${index + 1}`}
                    onClick={() => void practise(wholeConfig, drill)}
                  >
                    practise it
                  </Action>
                )}
              </li>
            ))}
          </ul>
          {dangers.length > 8 && <Text color="quiet">and {dangers.length - 8} more, marked by a wedge under the notes.</Text>}
          <Text color="quiet" fontSize="15px">
            Told from notes and marks alone, at the goal tempo; what you play will show whether it is so.
          </Text>
        </Part>
      )}
      <Part title="Notebook">
        <Notebook passageId={passage.id} bars={passage.bars} firstBarNumber={passage.firstBarNumber} />
      </Part>
      {!isNew && <LibraryPart passage={passage} summary={summary} />}
    </>
  );
};
