/** A choice that a strategy or a method offers: the interface draws it without knowing what it means. */
export interface OptionField {
  /** The option's name in the schema. */
  key: string;
  label: string;
  choices: readonly { value: number | string | boolean; name: string }[];
  /** Where any whole number will do: from the least to the most; the choices are then a few of them. */
  range?: { least: number; most: number };
  /** Where anything else of a kind can be typed: what that choice is called, what it begins with, what may stand there, and what is said of anything else. */
  typed?: { name: string; start: string; pattern: RegExp; hint: string; fault: string };
}
