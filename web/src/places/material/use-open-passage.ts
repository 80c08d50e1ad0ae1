import { forInstrument, instrumentOf } from '@isochron/core/material';
import type { Passage } from '@isochron/core/schema';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { useSettings } from '../../api/settings';
import { closeEditor, openEditor, readDraft, useEditor } from '../../stores/editor';
import { newPassageId } from './new-id';
import type { Saving } from './use-autosave';
import { useScores } from './use-scores';

const STARTING_TEXT = 'title: New passage\nmeter: 4/4\nkey: C\ntempo: 100\n\nC4/8 D E F G F E D | C/1 |\n';

/**
 * Opens a passage in the editor while its page is there: with what was being written when it was left, else with what is stored; or a new
 * one, which has its address as soon as it is stored.
 */
export const useOpenPassage = (isNew: boolean, stored: Passage | null, saving: Saving): void => {
  const scores = useScores();
  const { settings, loaded, message } = useSettings();
  const navigate = useNavigate();
  const opened = useRef('');
  const asked = isNew ? 'new' : (stored?.id ?? '');
  useEffect(() => {
    // Once a passage is open, nothing that comes later may take back what was done to it.
    if (useEditor.getState().passage?.id === asked) opened.current = asked;
    if (!asked || opened.current === asked) return;
    let isLeft = false;
    const begin = (passage: Passage, text: string, from: number) => {
      if (isLeft) return;
      opened.current = asked;
      openEditor(passage, text, from);
    };
    const openNew = async () => {
      const { passage } = await scores.readText(STARTING_TEXT, newPassageId('typed'));
      const instrument = instrumentOf(settings.playsId, settings.instruments);
      begin(forInstrument({ ...passage, text: STARTING_TEXT }, instrument), STARTING_TEXT, 0);
    };
    const open = async (from: Passage) => {
      const draft = readDraft(from.id);
      if (draft) begin(draft.passage, draft.text, from.revision);
      else begin(from, from.text ?? new TextDecoder().decode(await scores.write(from, '.txt')), from.revision);
    };
    if (stored) void open(stored);
    else if (loaded || message) void openNew();
    return () => {
      isLeft = true;
    };
  }, [asked, stored, scores, settings.playsId, settings.instruments, loaded, message]);
  useEffect(() => closeEditor, []);
  const id = useEditor(({ passage }) => passage?.id);
  useEffect(() => {
    if (isNew && id && saving === 'saved' && useEditor.getState().from > 0) void navigate(`/material/${id}`, { replace: true });
  }, [isNew, id, saving, navigate]);
};
