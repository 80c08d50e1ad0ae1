import { Flex, Input } from '@chakra-ui/react';
import { duplicateOf } from '@isochron/core/material';
import type { Passage, PassageSummary } from '@isochron/core/schema';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { usePassageWriter } from '../../api/queries/passages';
import { Action } from '../../app/Action';
import { Part } from '../../app/Page';
import { saveAs } from '../../app/save-as';
import { toaster } from '../../app/toaster';
import { newPassageId } from './new-id';
import { useScores } from './use-scores';

/** Ways out, by the endings of the files. */
const WAYS_OUT = [
  { ending: '.musicxml', name: 'MusicXML' },
  { ending: '.mxl', name: 'compressed' },
  { ending: '.mid', name: 'MIDI' },
  { ending: '.abc', name: 'ABC' },
  { ending: '.txt', name: 'text' },
] as const;

/** Where a passage stands: its tags, ways out, a copy of it, put away, deleted. */
export const LibraryPart = ({ passage, summary }: { passage: Passage; summary: PassageSummary | undefined }) => {
  const { shelve, store } = usePassageWriter();
  const scores = useScores();
  const navigate = useNavigate();
  const [tag, setTag] = useState('');
  const remove = async () => {
    await shelve(passage.id, { removed: true });
    await navigate('/material');
    toaster.create({
      title: `${passage.title} was deleted.`,
      duration: 12_000,
      action: { label: 'Put it back', onClick: () => void shelve(passage.id, { removed: false }) },
    });
  };
  const copy = async () => {
    const made = duplicateOf(passage, newPassageId(passage.title));
    await store(made, 0);
    await navigate(`/material/${made.id}`);
  };
  const exported = async (ending: string) =>
    saveAs(`${passage.id}${ending}`, 'application/octet-stream', await scores.write(passage, ending));
  return (
    <Part title="In the library">
      <Flex gap="10px 18px" flexWrap="wrap" align="center">
        {(summary?.tags ?? []).map((one) => (
          <Action
            key={one}
            quiet
            fontSize="15px"
            paddingY="2px"
            aria-label={`Take off the tag ${one}`}
            onClick={() => void shelve(passage.id, { tags: (summary?.tags ?? []).filter((other) => other !== one) })}
          >
            {one} ×
          </Action>
        ))}
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (tag.trim()) void shelve(passage.id, { tags: [...(summary?.tags ?? []), tag.trim().slice(0, 30)] });
            setTag('');
          }}
        >
          <Input
            aria-label="A new tag"
            placeholder="new tag, Enter"
            value={tag}
            onChange={(event) => setTag(event.target.value)}
            width="160px"
            size="sm"
            borderColor="quiet"
          />
        </form>
        {WAYS_OUT.map(({ ending, name }) => (
          <Action key={ending} quiet fontSize="15px" paddingY="2px" onClick={() => void exported(ending)}>
            Save as {name}
          </Action>
        ))}
        <Action quiet fontSize="15px" paddingY="2px" onClick={() => window.print()}>
          Print
        </Action>
        <Action quiet fontSize="15px" paddingY="2px" onClick={() => void copy()}>
          Make a copy
        </Action>
        <Action
          quiet
          fontSize="15px"
          paddingY="2px"
          onClick={() => void shelve(passage.id, { archived: summary?.archivedAt === null })}
        >
          {summary?.archivedAt ? 'Take back into practice' : 'Put away'}
        </Action>
        <Action quiet fontSize="15px" paddingY="2px" onClick={() => void remove()}>
          Delete
        </Action>
      </Flex>
    </Part>
  );
};
