import { loudestPower, powerDb, powerOf } from './power';

/** How far before and after a click's scheduled time its sound may reach the microphone, in seconds. */
const PATH_S = 0.14;
/** A count-in's clicks are subtracted only where they stand this far over the room's noise. */
const AUDIBLE_DB = 6;
/** Loudness is looked at in pieces this long. */
const PIECE_S = 0.005;
/** Kinds are told apart by their schedule; `gain` scales one kind's sound to another's where only the level differs. */
export interface ScheduledClick {
  frame: number;
  /** Clicks of one kind sound alike. */
  kind: string;
}

/** The sound of the click as the microphone hears it, learnt from clicks that sounded alone. */
export interface ClickPath {
  /** One heard waveform a kind, from the click's scheduled frame on. Empty where the click was not heard. */
  templates: Map<string, Float32Array>;
  /**
   * What is left of a click that is taken out, in dBFS over its loudest 5 ms: measured on the clicks that sounded alone, each
   * less the average of the others. Null where no kind was heard twice.
   */
  residueDb: number | null;
}

/** A path that hears no click: for headphones, and inputs without sound. */
export const NO_CLICK_PATH: ClickPath = { templates: new Map(), residueDb: null };

/**
 * Learns how the microphone hears each kind of click: the average of the recording after those clicks that sounded
 * alone (the count-in). The clock is shared, so the clicks line up to the sample and what is not click averages out.
 *
 * A kind that is heard no louder than the room gets no template.
 */
export const learnClickPath = (
  samples: Float32Array,
  alone: readonly ScheduledClick[],
  sampleRateHz: number,
  lastSample = samples.length,
): ClickPath => {
  const templates = new Map<string, Float32Array>();
  const whole = Math.round(PATH_S * sampleRateHz);
  const quiet = noiseFloor(samples, alone, sampleRateHz);
  let residue: number | null = null;
  const piece = Math.round(PIECE_S * sampleRateHz);
  for (const kind of new Set(alone.map((click) => click.kind))) {
    const heard = alone.filter((click) => click.kind === kind && click.frame >= 0 && click.frame < lastSample - whole / 4);
    if (heard.length === 0) continue;
    const nearest = heard.map((click) =>
      Math.min(whole, nextFrame(alone, click.frame) - click.frame, lastSample - click.frame),
    );
    const length = Math.max(1, Math.min(...nearest));
    const cuts = heard.map((click) => samples.subarray(click.frame, click.frame + length));
    const template = meanOf(cuts, length);
    const loudest = loudestPower(template, piece);
    if (powerDb(loudest) < powerDb(quiet) + AUDIBLE_DB || loudest < 1e-9) continue;
    templates.set(kind, fadeOut(template));
    if (cuts.length < 2) continue;
    // Less the average of the others: n/(n − 1) times as far as less the average of all.
    for (const cut of cuts) {
      const rest = cut.map((value, n) => ((value - (template[n] as number)) * cuts.length) / (cuts.length - 1));
      residue = Math.max(residue ?? 0, loudestPower(rest.subarray(0, Math.floor(length * 0.7)), piece));
    }
  }
  return { templates, residueDb: residue === null ? null : powerDb(residue) };
};

const meanOf = (cuts: readonly Float32Array[], length: number): Float32Array => {
  const mean = new Float32Array(length);
  for (const cut of cuts) for (let n = 0; n < length; n += 1) mean[n] = (mean[n] as number) + (cut[n] ?? 0) / cuts.length;
  return mean;
};

const nextFrame = (clicks: readonly ScheduledClick[], frame: number): number =>
  clicks.reduce((next, click) => (click.frame > frame && click.frame < next ? click.frame : next), Number.POSITIVE_INFINITY);

/** The power of the quietest tenth of the stretch around the clicks, in 5 ms pieces. */
const noiseFloor = (samples: Float32Array, clicks: readonly ScheduledClick[], sampleRateHz: number): number => {
  const piece = Math.round(0.005 * sampleRateHz);
  const from = Math.max(0, Math.min(...clicks.map((click) => click.frame)) - Math.round(0.1 * sampleRateHz));
  const to = Math.min(samples.length, Math.max(...clicks.map((click) => click.frame)) + Math.round(PATH_S * sampleRateHz));
  const powers: number[] = [];
  for (let at = from; at + piece <= to; at += piece) powers.push(powerOf(samples.subarray(at, at + piece)));
  powers.sort((a, b) => a - b);
  return powers[Math.floor(powers.length / 10)] ?? 0;
};

const fadeOut = (template: Float32Array): Float32Array => {
  const fade = template.length >> 2;
  for (let n = 0; n < fade; n += 1) {
    const at = template.length - 1 - n;
    template[at] = (template[at] as number) * (n / fade);
  }
  return template;
};

/** A count-in's clicks that differ among themselves by so much more than those of an earlier one did not sound alone (our choice). */
const SPOILT_DB = 10;
/** What a click leaves where it was not heard at all. */
const NO_RESIDUE_DB = -70;

/** What a path leaves of the quarter of clicks of which it leaves least, in dBFS over their loudest 5 ms. */
const leastLeftDb = (
  samples: Float32Array,
  clicks: readonly ScheduledClick[],
  { templates }: ClickPath,
  sampleRateHz: number,
): number => {
  const piece = Math.round(PIECE_S * sampleRateHz);
  const left = clicks
    .map(({ frame, kind }) => {
      const template = templates.get(kind);
      const end = Math.min(frame + Math.round(PATH_S * sampleRateHz), nextFrame(clicks, frame));
      return loudestPower(
        samples.subarray(frame, end).map((value, n) => value - (template?.[n] ?? 0)),
        piece,
      );
    })
    .sort((one, other) => one - other);
  return powerDb(left[left.length >> 2] ?? 0);
};

/**
 * Whether a count-in tells badly how the click sounds because something else sounded in it: its clicks differ far more among themselves
 * than those of an earlier one, whose path takes more out of those that did sound alone. A click that has changed is no such thing.
 */
export const isSpoilt = (
  samples: Float32Array,
  alone: readonly ScheduledClick[],
  { learnt, known }: { learnt: ClickPath; known: ClickPath },
  sampleRateHz: number,
): boolean =>
  learnt.residueDb !== null &&
  learnt.residueDb > (known.residueDb ?? NO_RESIDUE_DB) + SPOILT_DB &&
  leastLeftDb(samples, alone, known, sampleRateHz) < leastLeftDb(samples, alone, learnt, sampleRateHz);

/** Takes the heard clicks out of a block that begins at `blockFrame`, in place. */
export const subtractClicks = (
  block: Float32Array,
  blockFrame: number,
  clicks: readonly ScheduledClick[],
  path: ClickPath,
): void => {
  for (const click of clicks) {
    const template = path.templates.get(click.kind);
    if (!template) continue;
    const from = Math.max(blockFrame, click.frame);
    const to = Math.min(blockFrame + block.length, click.frame + template.length);
    for (let n = from; n < to; n += 1) {
      block[n - blockFrame] = (block[n - blockFrame] as number) - (template[n - click.frame] as number);
    }
  }
};
