import { z } from 'zod';
import { OwnKeysSchema } from './bench-action';
import { DEFAULT_PLAN, PlanSettingsSchema } from './day-plan';
import { NameIdSchema } from './ids';
import { InstrumentSchema } from './instrument';
import { SkillSchema, STEADY } from './skill';
import { InputKindSchema } from './take';
import { TOLERANCE_PRESETS, ToleranceSchema } from './tolerance';
import { withoutDefaults } from './without-defaults';

/** A measured latency, and the devices for which it holds. */
export const StoredCalibrationSchema = z.object({
  input: z.string(),
  output: z.string(),
  latencyS: z.number().min(0).max(1),
  spreadMs: z.number().min(0),
  measuredAt: z.iso.datetime(),
});

/** The sounds of the click, see time/click.ts. */
export const ClickSoundSchema = z.enum(['knock', 'tick', 'block', 'glass']);
export type ClickSound = z.infer<typeof ClickSoundSchema>;

/** Where a repetition that broke off is taken up: the beginning, the bar before the one in which it broke, or that bar alone. */
export const AfterBreakSchema = z.enum(['beginning', 'bar-before', 'bar']);
export type AfterBreak = z.infer<typeof AfterBreakSchema>;

/** Everything that the player sets once. */
export const SettingsSchema = z.object({
  input: InputKindSchema,
  /** The chosen microphone; empty for the system's own choice. */
  microphoneId: z.string().max(300),
  instrumentId: z.string(),
  /** The profile of the player's instrument, see signal/profiles. */
  profileId: z.string(),
  /** What the player plays, by its id among the ready instruments and the player's own. */
  playsId: NameIdSchema,
  instruments: z.array(InstrumentSchema).max(40),
  /** The chosen MIDI port: empty for all ports together, `virtual` for the one that ships. */
  midiPortId: z.string().max(300),
  calibrations: z.array(StoredCalibrationSchema),
  skill: SkillSchema,
  tolerance: ToleranceSchema,
  /** The tempo strategy of passages that have none of their own yet, and the options of each strategy. */
  strategyId: NameIdSchema,
  strategyOptions: z.record(NameIdSchema, z.record(z.string(), z.json())),
  noteNaming: z.enum(['british', 'american']),
  dates: z.enum(['day-first', 'month-first']),
  appearance: z.enum(['paper', 'ink', 'system']),
  announce: z.boolean(),
  afterBreak: AfterBreakSchema.default('beginning'),
  /** Whether it is counted on, bar after bar, until the first note comes. */
  waits: z.boolean().default(false),
  /** Whether decisions and what comes next are said aloud, and by which of the browser's voices; empty for its own choice. */
  speaks: z.boolean().default(false),
  voice: z.string().max(200).default(''),
  /** Whether the bar that is played is marked; who looks less hears more. */
  marksBar: z.boolean().default(true),
  /** What tempos count in a minute, by its id in rhythm/tempo-units. */
  tempoUnit: z.string().max(10).default('beat'),
  clickLevel: z.number().min(0).max(1),
  clickSound: ClickSoundSchema,
  /** How much louder the first beat of a bar is, in dB, and whether it is higher. */
  accentDb: z.number().min(0).max(9),
  accentHigher: z.boolean(),
  /** The loudness of what announces a decision, apart from the click. */
  cueLevel: z.number().min(0).max(1),
  /** How loud a recording is that is played along with. */
  playAlongLevel: z.number().min(0).max(1).default(0.7),
  /** After so many minutes of playing a break is brought to mind; 0 for never. */
  breakAfterMin: z.number().int().min(0).max(90),
  /** The last day on which it hurt: those after it are lighter. */
  lastPainDay: z.iso.date().nullable().default(null),
  keys: OwnKeysSchema,
  /** What the player wants of every day's plan. */
  plan: PlanSettingsSchema,
  /** Whether the steps of a first day are still offered. */
  firstDay: z.enum(['to-come', 'over']),
});

/** Some of the settings, as they are to be from now on. */
export const SettingsChangeSchema = withoutDefaults(SettingsSchema).partial();

export type StoredCalibration = z.infer<typeof StoredCalibrationSchema>;
export type Settings = z.infer<typeof SettingsSchema>;

export const DEFAULT_SETTINGS: Settings = {
  input: 'microphone',
  microphoneId: '',
  instrumentId: 'struck-bar',
  profileId: 'any',
  playsId: 'any',
  instruments: [],
  midiPortId: '',
  calibrations: [],
  skill: STEADY,
  tolerance: TOLERANCE_PRESETS.secure,
  strategyId: 'half-speed-climb',
  strategyOptions: {},
  noteNaming: 'british',
  dates: 'day-first',
  appearance: 'system',
  announce: true,
  afterBreak: 'beginning',
  waits: false,
  speaks: false,
  voice: '',
  marksBar: true,
  tempoUnit: 'beat',
  clickLevel: 0.6,
  clickSound: 'knock',
  accentDb: 2,
  accentHigher: true,
  cueLevel: 0.6,
  playAlongLevel: 0.7,
  breakAfterMin: 25,
  lastPainDay: null,
  keys: {},
  plan: DEFAULT_PLAN,
  firstDay: 'to-come',
};

/** English as it is written where notes are crotchets and quavers. */
const BRITISH = /^en-(GB|AU|NZ|IE|ZA|IN)$/i;

/** What a language has its players expect, before they say otherwise: note names and dates. */
export const languageDefaults = (language: string): Pick<Settings, 'noteNaming' | 'dates'> => ({
  noteNaming: BRITISH.test(language) || language === '' ? 'british' : 'american',
  dates: /^en-US$/i.test(language) ? 'month-first' : 'day-first',
});

/** Stored settings, field by field: one that is missing or cannot be read takes its default, the others stay. */
export const readSettings = (stored: unknown, defaults: Settings = DEFAULT_SETTINGS): Settings => {
  const document = (typeof stored === 'object' && stored !== null ? stored : {}) as Record<string, unknown>;
  const fields = Object.entries(SettingsSchema.shape).map(([key, schema]) => {
    const parsed = schema.safeParse(document[key]);
    return [key, parsed.success ? parsed.data : defaults[key as keyof Settings]];
  });
  return SettingsSchema.parse(Object.fromEntries(fields));
};
