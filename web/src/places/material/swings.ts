import type { SectionSwing } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';

const USUAL = [
  { value: 'straight', name: 'straight' },
  { value: 'own', name: 'swung, as you have it' },
  { value: '1.5', name: 'swung 1.5 to 1' },
  { value: '2', name: 'swung 2 to 1' },
  { value: '3', name: 'swung 3 to 1' },
];

/** A swing in words. */
export const swingName = (swing: SectionSwing): string =>
  USUAL.find(({ value }) => value === String(swing))?.name ?? `swung ${swing} to 1`;

/** How eighths may swing, as the choice is offered; with what a file asks for, where that is another ratio. */
export const swingChoices = (now: SectionSwing = 'straight'): { value: string; name: string }[] =>
  USUAL.some(({ value }) => value === String(now)) ? USUAL : [...USUAL, { value: String(now), name: swingName(now) }];

/** What eighths are called, by setting. */
export const useEighths = (): string => (useSettings().settings.noteNaming === 'british' ? 'Quavers' : 'Eighths');
