import { Box, Field, Input } from '@chakra-ui/react';
import { clampBpm, tappedBpm } from '@isochron/core/material';
import { useEffect, useRef } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import { Action } from '../../app/Action';
import { asNumber, FieldError } from '../../app/fields';
import { labelStyle } from '../../app/label-style';
import type { Tempos } from './use-beginning';

/** What a key, and a key with Shift, turns the tempo by. */
const STEP_BPM = 1;
const FAR_BPM = 5;

interface Props {
  form: UseFormReturn<Tempos>;
  name: keyof Tempos;
  label: string;
  /** What stands beneath. */
  unit: string;
  /** What is tapped in, for who does not see where the button stands. */
  tapLabel: string;
  /** What is to be kept of it, once the player turns to something else. */
  onKeep?: () => void;
}

/** A tempo as one large figure: typed, turned by ↑ and ↓ or the wheel, or tapped in. */
export const TempoFigure = ({ form, name, label, unit, tapLabel, onKeep }: Props) => {
  const box = useRef<HTMLInputElement | null>(null);
  const taps = useRef<number[]>([]);
  const error = form.getFieldState(name, form.formState).error?.message ?? '';
  const set = (bpm: number) => form.setValue(name, clampBpm(bpm), { shouldDirty: true, shouldValidate: true });
  const turn = (by: number) => {
    const now = Number(form.getValues(name));
    if (Number.isFinite(now)) set(now + by);
  };
  const latest = useRef(turn);
  latest.current = turn;
  useEffect(() => {
    const input = box.current;
    // Only where it has the focus: who scrolls past it changes nothing. React's own listeners could not keep the page from scrolling.
    const onWheel = (event: WheelEvent) => {
      if (document.activeElement !== input || event.deltaY === 0) return;
      event.preventDefault();
      latest.current(event.deltaY < 0 ? STEP_BPM : -STEP_BPM);
    };
    input?.addEventListener('wheel', onWheel, { passive: false });
    return () => input?.removeEventListener('wheel', onWheel);
  }, []);

  const { ref, ...field } = form.register(name, { setValueAs: asNumber, onBlur: onKeep });
  return (
    <Field.Root invalid={error !== ''} width="auto">
      <Field.Label {...labelStyle} color="quiet">
        {label}
      </Field.Label>
      <Box display="flex" alignItems="baseline" gap="10px">
        <Input
          {...field}
          ref={(element) => {
            ref(element);
            box.current = element;
          }}
          onKeyDown={(event) => {
            const way = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
            if (way === 0) return;
            event.preventDefault();
            turn(way * (event.shiftKey ? FAR_BPM : STEP_BPM));
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
            const bpm = tappedBpm(taps.current);
            if (bpm === null) return;
            set(bpm);
            onKeep?.();
          }}
        >
          tap
        </Action>
      </Box>
      <Field.HelperText color="quiet" fontSize="15px" maxWidth="270px">
        {unit}
      </Field.HelperText>
      <FieldError>{error}</FieldError>
    </Field.Root>
  );
};
