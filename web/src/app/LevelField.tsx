import { z } from 'zod';
import { NumberField } from './fields';

const LevelSchema = z.number({ message: 'A number from 0 to 100.' }).min(0, 'Not under 0.').max(100, 'Not over 100.');

interface Props {
  label: string;
  /** From 0 to 1; the player types it from 0 to 100. */
  value: number;
  onChange(level: number): void;
  width?: string;
}

/** How loud something is. */
export const LevelField = ({ value, onChange, ...box }: Props) => (
  <NumberField
    {...box}
    unit="0 to 100"
    value={Math.round(value * 100)}
    schema={LevelSchema}
    onChange={(level) => onChange(level / 100)}
  />
);
