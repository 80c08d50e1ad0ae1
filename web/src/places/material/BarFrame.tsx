import { Flex } from '@chakra-ui/react';
import {
  barNumbersOf,
  majorKey,
  meterAt,
  minorKey,
  noteValueName,
  PITCHED_CLEFS,
  withBeatUnit,
  withClef,
  withKey,
  withMeter,
} from '@isochron/core/material';
import { barAt, barStarts, beats, beatsNumber, type Clef, fifthsAt, type Grid, type Passage } from '@isochron/core/schema';
import { useSettings } from '../../api/settings';
import { ChoiceField } from '../../app/fields';
import { clefAt } from '../../notation/staff-clefs';
import { useNewNotes } from './use-new-notes';

const METERS = ['2/2', '2/4', '3/4', '4/4', '5/4', '6/4', '3/8', '5/8', '6/8', '7/8', '9/8', '12/8'];
const BEATS = ['1/2', '3/4', '1/4', '3/8', '1/8', '1/16'];
const KEYS = Array.from({ length: 15 }, (_, k) => k - 7);
const STAFF_NAMES = ['Upper clef', 'Lower clef'];

const named = (name: string) => ({ value: name, name });

/** Where the keys of the notes lead to: the first of these fields. */
export const FRAME_ID = 'bar-frame';

/** Meter, key and clef from the bar of the note that was reached last, up to where they change again, and the beat of all. */
export const BarFrame = ({ passage, grid, current }: { passage: Passage; grid: Grid; current: number }) => {
  const change = useNewNotes();
  const { settings } = useSettings();
  const lines = barStarts(passage);
  const bar = barAt(lines, beatsNumber(grid.events[current]?.at ?? '0')) - 1;
  const at = lines[bar] ?? beats(0);
  const from = `from bar ${barNumbersOf(passage)[bar] ?? bar + 1}`;
  const { count, unit } = meterAt(passage, at);
  const meterName = `${count}/${unit}`;
  const toMeter = (name: string) => {
    const [count = 4, unit = 4] = name.split('/').map(Number);
    change(withMeter(passage, bar, { count, unit: unit as 4 }));
  };
  return (
    <Flex gap="14px 26px" flexWrap="wrap" align="flex-end" marginTop="14px" id={FRAME_ID} data-testid="bar-frame">
      <ChoiceField
        label={`Meter ${from}`}
        width="150px"
        value={meterName}
        choices={[...new Set([...METERS, meterName])].map(named)}
        onChange={toMeter}
      />
      <ChoiceField
        label={`Key ${from}`}
        width="220px"
        value={String(fifthsAt(passage, at))}
        choices={KEYS.map((fifths) => ({
          value: String(fifths),
          name: `${majorKey(fifths)} major, ${minorKey(fifths)} minor`,
        }))}
        onChange={(fifths) => change(withKey(passage, bar, Number(fifths)))}
      />
      {grid.staves.map(({ clef }, k) =>
        clef === 'percussion' ? null : (
          <ChoiceField<Clef>
            // biome-ignore lint/suspicious/noArrayIndexKey: a staff is its place.
            key={k}
            label={`${grid.staves.length > 1 ? STAFF_NAMES[k] : 'Clef'} ${from}`}
            width="190px"
            value={clefAt(grid, k + 1, at)}
            choices={PITCHED_CLEFS.map((name) => ({ value: name, name }))}
            onChange={(name) => change(withClef(passage, bar, k + 1, name))}
          />
        ),
      )}
      <ChoiceField
        label="The beat is a"
        width="190px"
        value={passage.beatUnit}
        choices={[...new Set([...BEATS, passage.beatUnit])].map((unit) => ({
          value: unit,
          name: noteValueName(unit, settings.noteNaming),
        }))}
        onChange={(unit) => change(withBeatUnit(passage, unit))}
      />
    </Flex>
  );
};
