import { chance } from '../stats/random';

/** Something else to attend to while one plays: silently, so that whoever blows or sings can do it, and nothing reaches the microphone. */
export interface MindTask {
  id: string;
  name: string;
  /** What to do, in a sentence. */
  about: string;
  /** What is shown at a step, from 0; empty where nothing is. */
  shown(seed: number, step: number): string;
  /** The answer after so many steps: hidden until it is asked for. */
  answer(seed: number, steps: number): string;
}

const drawn = (seed: number, step: number, of: number): number =>
  Math.floor(of * chance(7919 * (seed + 1) + 104_729 * step).uniform());

const SEVENS_FROM = 300;
const COLOURS = ['red', 'blue', 'green', 'yellow'] as const;
/** Digits are remembered in groups of so many; what came before a group is forgotten again. */
const GROUP = 5;
const LARGEST = 90;

const colour = (seed: number, step: number) => COLOURS[drawn(seed, step, COLOURS.length)] as string;
const digit = (seed: number, step: number) => String(drawn(seed, step, 10));
const sized = (seed: number, step: number) => 10 + drawn(seed, step, LARGEST);
const upTo = <Value>(steps: number, value: (step: number) => Value): Value[] =>
  Array.from({ length: steps }, (_, step) => value(step));

const SEVENS: MindTask = {
  id: 'sevens',
  name: 'count down in sevens',
  about: `Count down in sevens from ${SEVENS_FROM}, in your head, one number at each sign.`,
  shown: (_seed, step) => (step % 2 === 0 ? '●' : '○'),
  answer: (_seed, steps) => `${SEVENS_FROM - 7 * (steps % Math.floor(SEVENS_FROM / 7))}`,
};

const COUNT_COLOURS: MindTask = {
  id: 'colours',
  name: 'count a colour',
  about: 'Count how often “blue” comes.',
  shown: colour,
  answer: (seed, steps) => `${upTo(steps, (step) => colour(seed, step)).filter((one) => one === 'blue').length} times blue`,
};

const DIGITS: MindTask = {
  id: 'digits',
  name: 'remember digits',
  about: `Remember the digits in order; after every ${GROUP} of them begin again.`,
  shown: digit,
  answer: (seed, steps) => {
    const from = steps === 0 ? 0 : GROUP * Math.floor((steps - 1) / GROUP);
    return upTo(steps, (step) => digit(seed, step))
      .slice(from)
      .join(' ');
  },
};

const COMPARE: MindTask = {
  id: 'compare',
  name: 'compare numbers',
  about: 'Count how often a number is larger than the one before it.',
  shown: (seed, step) => String(sized(seed, step)),
  answer: (seed, steps) => {
    const numbers = upTo(steps, (step) => sized(seed, step));
    return `${numbers.filter((one, k) => k > 0 && one > (numbers[k - 1] as number)).length} times larger`;
  },
};

/** Every task. To add one, write it above and list it here. */
export const MIND_TASKS: readonly MindTask[] = [SEVENS, COUNT_COLOURS, DIGITS, COMPARE];

/** A task by its id; the first of them where there is none of that name. */
export const mindTaskOf = (id: unknown): MindTask => MIND_TASKS.find((task) => task.id === id) ?? SEVENS;
