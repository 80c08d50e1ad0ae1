import { Box, Field, Input } from '@chakra-ui/react';
import { clampBpm, type TempoUnit, tappedBpm } from '@isochron/core/material';
import { useEffect, useRef, useState } from 'react';
import { type UseFormReturn, useController } from 'react-hook-form';
import { Action } from '../../app/Action';
import { FieldError, numberFrom } from '../../app/fields';
import { labelStyle } from '../../app/label-style';
import type { Tempos } from './use-beginning';

/** What a key, and a key with Shift, turns the figure by. */
const STEP = 1;
const FAR = 5;

interface Props {
  form: UseFormReturn<Tempos>;
  name: keyof Tempos;
  label: string;
  /** What the figure counts in a minute; beats where it is left out. The form has beats. */
  unit?: TempoUnit;
  /** What stands beneath. */
  help?: string;
  /** What is tapped in, for who does not see where the button stands. */
  tapLabel: string;
  /** What is to be kept of it, once the player turns to something else. */
  onKeep?: () => void;
}

/** A figure as it is read: so exact that the tempo comes back from it. */
const figureOf = (bpm: unknown, perBeat: number): string =>
  typeof bpm === 'number' && Number.isFinite(bpm) ? String(Math.round(100 * bpm * perBeat) / 100) : '';

/** A tempo as one large figure: typed, turned by ↑ and ↓ or the wheel, or tapped in. */
export const TempoFigure = ({ form, name, label, unit, help, tapLabel, onKeep }: Props) => {
  const perBeat = unit?.perBeat ?? 1;
  /** What is being typed, in which unit; null where the figure is the form's. */
  const [typed, setTyped] = useState<{ text: string; perBeat: number } | null>(null);
  const box = useRef<HTMLInputElement | null>(null);
  const taps = useRef<number[]>([]);
  const error = form.getFieldState(name, form.formState).error?.message ?? '';
  const take = (bpm: number) => form.setValue(name, bpm, { shouldDirty: true, shouldValidate: true });
  const set = (bpm: number) => {
    setTyped(null);
    take(clampBpm(bpm));
  };
  const turn = (by: number) => {
    const now = Number(form.getValues(name)) * perBeat;
    if (Number.isFinite(now)) set((now + by) / perBeat);
  };
  const latest = useRef(turn);
  latest.current = turn;
  useEffect(() => {
    const input = box.current;
    // Only where it has the focus: who scrolls past it changes nothing. React's own listeners could not keep the page from scrolling.
    const onWheel = (event: WheelEvent) => {
      if (document.activeElement !== input || event.deltaY === 0) return;
      event.preventDefault();
      latest.current(event.deltaY < 0 ? STEP : -STEP);
    };
    input?.addEventListener('wheel', onWheel, { passive: false });
    return () => input?.removeEventListener('wheel', onWheel);
  }, []);

  const { field } = useController({ control: form.control, name });
  return (
    <Field.Root invalid={error !== ''} width="auto">
      <Field.Label {...labelStyle} color="quiet">
        {label}
      </Field.Label>
      <Box display="flex" alignItems="baseline" gap="10px">
        <Input
          ref={box}
          value={typed?.perBeat === perBeat ? typed.text : figureOf(field.value, perBeat)}
          onChange={({ target }) => {
            setTyped({ text: target.value, perBeat });
            take(numberFrom(target.value) / perBeat);
          }}
          onBlur={() => {
            // What is no tempo stays, with what is wrong with it.
            if (error === '') setTyped(null);
            field.onBlur();
            onKeep?.();
          }}
          onKeyDown={(event) => {
            const way = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
            if (way === 0) return;
            event.preventDefault();
            turn(way * (event.shiftKey ? FAR : STEP));
          }}
          inputMode="decimal"
          autoComplete="off"
          variant="flushed"
          width="2.4em"
          height="1.05em"
          padding="0"
          fontSize={{ base: '56px', md: '80px' }}
          fontFamily="heading"
          lineHeight="1"
          borderColor="rule"
        />
        <Action
          quiet
          fontSize="15px"
          padding="2px 10px"
          aria-label={tapLabel}
          onClick={({ timeStamp }) => {
            taps.current.push(timeStamp);
            const tapped = tappedBpm(taps.current);
            if (tapped === null) return;
            set(tapped / perBeat);
            onKeep?.();
          }}
        >
          tap
        </Action>
      </Box>
      {help && (
        <Field.HelperText color="quiet" fontSize="15px" maxWidth="270px">
          {help}
        </Field.HelperText>
      )}
      <FieldError>{error}</FieldError>
    </Field.Root>
  );
};
