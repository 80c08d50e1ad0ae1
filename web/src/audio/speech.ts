import type { Settings } from '@isochron/core/schema';

/** Whether and by which voice something is said. */
type Voice = Pick<Settings, 'speaks' | 'voice'>;

/** The voices of the browser, by their names; empty where it has none, or has not told them yet. */
export const voiceNames = (): string[] =>
  'speechSynthesis' in window ? speechSynthesis.getVoices().map(({ name }) => name) : [];

/**
 * Says something in place of what was being said, by the browser's own speech; nothing where the player does not want that, or it has none.
 *
 * @param duck softens what else sounds while it is said
 */
export const speak = (words: string, { speaks, voice }: Voice, duck: (isDucked: boolean) => void = () => {}): void => {
  if (!speaks || !('speechSynthesis' in window)) return;
  speechSynthesis.cancel();
  const said = new SpeechSynthesisUtterance(words);
  const own = speechSynthesis.getVoices().find(({ name }) => name === voice);
  // The words are English: a voice of another language would read them by its own rules.
  said.lang = own?.lang ?? 'en';
  if (own) said.voice = own;
  said.onstart = () => duck(true);
  said.onend = () => duck(false);
  said.onerror = () => duck(false);
  speechSynthesis.speak(said);
};
