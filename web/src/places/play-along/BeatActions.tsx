import { Flex, Text } from '@chakra-ui/react';
import { addBeat, doubleBeats, halveBeats, moveBeat, removeBeat, shiftBeats } from '@isochron/core/material';
import type { BeatsOf } from '@isochron/core/schema';
import { Action } from '../../app/Action';
import { CountField } from '../../app/fields';
import { usePageKeys } from '../../app/use-page-keys';

const BEATS_PER_BAR = [1, 2, 3, 4, 5, 6, 7, 8, 9, 12];
const NUDGE_S = 0.01;

interface Props {
  beats: BeatsOf;
  /** The beat that corrections are about; null for none. */
  selected: number | null;
  onSelect(beat: number): void;
  onChange(beats: BeatsOf): void;
  onUndo: (() => void) | null;
  onTap(): void;
  tapping: number;
  onTapped(): void;
}

/** Beats that are all where bars begin: which of them does, counted within a bar. */
const barFrom = (beat: number, beatsPerBar: number) => ((beat % beatsPerBar) + beatsPerBar) % beatsPerBar;

/** Corrections of beats: all of them at once, or one; by buttons and by keys. */
export const BeatActions = ({ beats, selected, onSelect, onChange, onUndo, onTap, tapping, onTapped }: Props) => {
  const { timesS, beatsPerBar } = beats;
  const count = timesS.length;
  const at = selected ?? 0;
  const timed = (next: number[], firstBarBeat = beats.firstBarBeat) => {
    onChange({ ...beats, timesS: next, firstBarBeat: barFrom(firstBarBeat, beatsPerBar) });
    onSelect(Math.max(0, Math.min(at, next.length - 1)));
  };
  const all = {
    double: () => timed(doubleBeats(timesS), 2 * beats.firstBarBeat),
    halve: () => timed(halveBeats(timesS), Math.ceil(beats.firstBarBeat / 2)),
    others: () => timed(halveBeats(timesS, 1), Math.floor(beats.firstBarBeat / 2)),
    shift: () => timed(shiftBeats(timesS)),
  };
  const nudge = (byS: number) => timed(moveBeat(timesS, at, (timesS[at] ?? 0) + byS));
  const between = () => {
    const [here, next] = [timesS[at], timesS[at + 1]];
    if (here !== undefined && next !== undefined) timed(addBeat(timesS, (here + next) / 2));
  };
  const begins = () => onChange({ ...beats, firstBarBeat: barFrom(at, beatsPerBar) });
  const remove = () => timed(removeBeat(timesS, timesS[at] ?? 0));
  usePageKeys({
    ArrowLeft: () => onSelect(Math.max(0, at - 1)),
    ArrowRight: () => onSelect(Math.max(0, Math.min(count - 1, at + 1))),
    e: () => nudge(-NUDGE_S),
    l: () => nudge(NUDGE_S),
    Delete: remove,
    a: between,
    b: begins,
    t: onTap,
    u: () => onUndo?.(),
  });
  return (
    <Flex direction="column" gap="12px">
      <Flex gap="10px" flexWrap="wrap" align="flex-end">
        <CountField
          label="Beats in a bar"
          value={beatsPerBar}
          counts={BEATS_PER_BAR}
          name={String}
          onChange={(next) => onChange({ ...beats, beatsPerBar: next, firstBarBeat: barFrom(beats.firstBarBeat, next) })}
        />
        <Action quiet onClick={all.double} disabled={count < 2}>
          Twice as many
        </Action>
        <Action quiet onClick={all.halve} disabled={count < 4}>
          Half as many
        </Action>
        <Action quiet onClick={all.others} disabled={count < 4}>
          Half, the others
        </Action>
        <Action quiet onClick={all.shift} disabled={count < 3}>
          Half a beat later
        </Action>
        <Action quiet onClick={() => onUndo?.()} disabled={!onUndo}>
          Undo (u)
        </Action>
      </Flex>
      <Flex gap="10px" flexWrap="wrap">
        <Action quiet onClick={begins} disabled={count === 0}>
          A bar begins here (b)
        </Action>
        <Action quiet onClick={() => nudge(-NUDGE_S)} disabled={count === 0} aria-label="Move this beat 10 ms earlier">
          10 ms earlier (e)
        </Action>
        <Action quiet onClick={() => nudge(NUDGE_S)} disabled={count === 0} aria-label="Move this beat 10 ms later">
          10 ms later (l)
        </Action>
        <Action quiet onClick={between} disabled={at + 1 >= count}>
          One more after it (a)
        </Action>
        <Action quiet onClick={remove} disabled={count === 0}>
          Without this one (Del)
        </Action>
      </Flex>
      <Flex gap="10px" flexWrap="wrap" align="center">
        <Action quiet onClick={onTap}>
          Tap along (t)
        </Action>
        {tapping > 0 && <Action onClick={onTapped}>Take these taps</Action>}
        <Text color="quiet" role="status" maxWidth="70ch">
          {tapping > 0
            ? `${tapping} ${tapping === 1 ? 'tap' : 'taps'}. “Take these taps” puts the beats from the first to the last of them there.`
            : 'Let it sound and press t on every beat: from your first tap to your last the beats are yours.'}
        </Text>
      </Flex>
    </Flex>
  );
};
