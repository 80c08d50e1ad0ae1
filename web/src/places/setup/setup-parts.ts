import { hasEveryWord } from '@isochron/core/material';
import { STRATEGIES } from '@isochron/core/strategy';
import type { ComponentType } from 'react';
import { AppearanceSettings } from './AppearanceSettings';
import { BackupSettings } from './BackupSettings';
import { CalibrationSettings } from './CalibrationSettings';
import { Cautions } from './Cautions';
import { ClickSettings } from './ClickSettings';
import { DayPlanFields } from './DayPlanFields';
import { InputSettings } from './InputSettings';
import { InstrumentSettings } from './InstrumentSettings';
import { IntegritySettings } from './IntegritySettings';
import { KeySettings } from './KeySettings';
import { ListeningSettings } from './ListeningSettings';
import { ReanalysisSettings } from './ReanalysisSettings';
import { TempoSettings } from './TempoSettings';
import { ToleranceSettings } from './ToleranceSettings';

/** A part of Setup: one screen with an address of its own. */
export interface SetupPart {
  id: string;
  title: string;
  /** What a player may look for there: the names of its fields, and other words for them. */
  holds: readonly string[];
  Content: ComponentType;
  /** Whether it is of use also where the settings cannot be fetched. */
  standsAlone?: boolean;
}

/** Every part, in the order in which a player comes to need them. */
export const SETUP_PARTS: readonly SetupPart[] = [
  {
    id: 'instrument',
    title: 'Instrument',
    holds: [
      'I play',
      'Another instrument',
      'Name',
      'Lowest, as written',
      'Highest',
      'Semitones to the sounding pitch',
      'Strings, from the lowest',
      'Clef',
      'Sound',
      'Transposition',
    ],
    Content: InstrumentSettings,
  },
  {
    id: 'input',
    title: 'Input',
    holds: [
      'Heard by',
      'Which microphone',
      'Your instrument',
      'Which MIDI port',
      'Its instrument',
      'Its unsteadiness',
      'Its placement',
      'Missed notes',
      'Simulated player',
      'Tap pad',
    ],
    Content: InputSettings,
  },
  {
    id: 'delay',
    title: 'Delay of the sound',
    holds: ['Back in through', 'Measure the delay', 'Latency', 'Headphones, loudspeaker'],
    Content: CalibrationSettings,
  },
  {
    id: 'tolerance',
    title: 'Tolerance',
    holds: [
      'Window around each note',
      'Notes inside the window',
      'Window floor',
      'Drift',
      'A wrong note counts (MIDI)',
      'A wrong note counts (sound)',
      'How strict',
    ],
    Content: ToleranceSettings,
  },
  {
    id: 'tempo',
    title: 'Tempo plan',
    holds: ['Tempo plan of new passages', ...new Set(STRATEGIES.flatMap(({ fields }) => fields.map(({ label }) => label)))],
    Content: TempoSettings,
  },
  {
    id: 'days',
    title: 'Days and plan',
    holds: [
      'Minutes on each day',
      'Of the time, slow',
      'Order of the blocks',
      'A passage gets at most',
      'A break lasts',
      'The week as a calendar file',
    ],
    Content: DayPlanFields,
  },
  {
    id: 'click',
    title: 'Click',
    holds: [
      'Sound of the click',
      'Click level',
      'First of the bar',
      'First of the bar higher',
      'Level of what you play along with',
    ],
    Content: ClickSettings,
  },
  {
    id: 'playing',
    title: 'While you play',
    holds: [
      'Announce each decision by a sound',
      'Say each decision aloud',
      'By this voice',
      'Level of the announcements',
      'Mark the bar that is played',
      'Count on until I begin',
      'When you break off, go on',
      'Remind me to rest',
      'Speech',
    ],
    Content: ListeningSettings,
  },
  { id: 'keys', title: 'Keys and pedals', holds: ['Your own keys', 'Pedal', 'MIDI keys'], Content: KeySettings },
  {
    id: 'look',
    title: 'Words and look',
    holds: ['Note names', 'Dates', 'Appearance', 'Dark, light'],
    Content: AppearanceSettings,
  },
  {
    id: 'measuring',
    title: 'How recordings are measured',
    holds: ['Measure all takes again'],
    Content: ReanalysisSettings,
    standsAlone: true,
  },
  {
    id: 'data',
    title: 'Your data',
    holds: ['Check it now', 'Recordings', 'Copies in the data folder'],
    Content: IntegritySettings,
    standsAlone: true,
  },
  {
    id: 'backup',
    title: 'Backup',
    holds: ['Back up everything', 'A backup to restore', 'All figures as JSON and CSV'],
    Content: BackupSettings,
    standsAlone: true,
  },
  { id: 'cautions', title: 'Cautions', holds: ['When it hurts', 'Loudness and hearing'], Content: Cautions, standsAlone: true },
];

/** A part that was looked for, and what of it fits; nothing where its title does. */
export interface FoundPart {
  part: SetupPart;
  fits: string[];
}

/** The parts whose title, or what they hold, has every word that was typed; all of them where none was. */
export const foundParts = (text: string): FoundPart[] => {
  const has = hasEveryWord(text);
  return SETUP_PARTS.flatMap((part) => {
    const fits = text.trim() ? part.holds.filter(has) : [];
    return has(part.title) || fits.length > 0 ? [{ part, fits }] : [];
  });
};
