import { writeMidi } from 'midi-file';
import { describe, expect, it } from 'vitest';
import { midiOf } from '../../rhythm/pitch';
import { readPassageFile } from './passage-files';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const sounding = ({ passage }: Awaited<ReturnType<typeof readPassageFile>>) =>
  passage.notes.map(({ at, pitch, staff }) => `${at}:${pitch ? midiOf(pitch) : 'x'}/${staff}`).join(' ');

/** Two bars of a quartet as a score is written: tempo and jump above the top staff alone. */
const QUARTET = `<score-partwise version="4.0">
<part-list>
  <score-part id="P1"><part-name>Violin</part-name></score-part>
  <score-part id="P2"><part-name>Violin</part-name></score-part>
  <score-part id="P3"><part-name>Silent</part-name></score-part>
</part-list>
<part id="P1">
  <measure number="1"><attributes><divisions>1</divisions><time><beats>2</beats><beat-type>4</beat-type></time></attributes>
    <direction><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>72</per-minute></metronome></direction-type><sound tempo="72"/></direction>
    <note><pitch><step>E</step><octave>5</octave></pitch><duration>2</duration></note></measure>
  <measure number="2"><note><pitch><step>F</step><octave>5</octave></pitch><duration>2</duration></note>
    <direction><direction-type><words>Fine</words></direction-type><sound fine="yes"/></direction></measure>
  <measure number="3"><note><pitch><step>G</step><octave>5</octave></pitch><duration>2</duration></note>
    <direction><direction-type><words>D.C. al Fine</words></direction-type><sound dacapo="yes"/></direction></measure>
</part>
<part id="P2">
  <measure number="1"><attributes><divisions>2</divisions><time><beats>2</beats><beat-type>4</beat-type></time></attributes>
    <note><pitch><step>C</step><octave>4</octave></pitch><duration>2</duration></note>
    <note><pitch><step>D</step><octave>4</octave></pitch><duration>2</duration></note></measure>
  <measure number="2"><note><pitch><step>E</step><octave>4</octave></pitch><duration>4</duration></note></measure>
  <measure number="3"><note><pitch><step>F</step><octave>4</octave></pitch><duration>4</duration></note></measure>
</part>
<part id="P3"><measure number="1"><note><rest/><duration>2</duration></note></measure></part>
</score-partwise>`;

describe('a part of a MusicXML score', () => {
  const read = (part?: string) => readPassageFile('quartet.musicxml', bytesOf(QUARTET), 'quartet', part);

  it('is offered where it has notes, by a name of its own', async () => {
    expect((await read()).parts).toEqual([
      { id: 'P1', name: 'Violin', notes: 3 },
      { id: 'P2', name: 'Violin (2)', notes: 4 },
    ]);
    expect((await read()).simplified).toContain('Of the parts of this file this is taken: Violin.');
  });

  it('has the tempo and the jumps that stand above the top staff', async () => {
    const second = await read('P2');
    expect(second.passage.goalBpm).toBe(72);
    // Three bars, then from the beginning to the fine.
    expect(sounding(second)).toBe('0:60/1 1:62/1 2:64/1 4:65/1 6:60/1 7:62/1 8:64/1');
    expect(second.simplified).toContain('Of the parts of this file this is taken: Violin (2).');
  });

  it('is refused in words where it is not there', async () => {
    await expect(read('P9')).rejects.toThrow('This part is not in the file.');
    await expect(read('P3')).rejects.toThrow('This part is not in the file.');
  });

  it('is not asked for where there is but one', async () => {
    const alone = QUARTET.replace(/<part id="P2">[\s\S]*?<\/part>/, '');
    expect((await readPassageFile('alone.musicxml', bytesOf(alone), 'alone')).parts).toEqual([]);
  });
});

/** One track of quarters on channels, each a list of keys; null is a track without a name. */
const trackOf = (name: string | null, ...channels: { channel: number; keys: number[] }[]) => [
  ...(name === null ? [] : [{ deltaTime: 0, type: 'trackName', text: name }]),
  ...[0, 1, 2, 3].flatMap((beat) =>
    ['noteOn', 'noteOff'].flatMap((type) =>
      channels
        .filter(({ keys }) => keys[beat] !== undefined)
        .map(({ channel, keys }, k) => ({
          deltaTime: type === 'noteOff' && k === 0 ? 96 : 0,
          type,
          channel,
          noteNumber: keys[beat],
          velocity: 64,
        })),
    ),
  ),
  { deltaTime: 0, type: 'endOfTrack' },
];
const fileOf = (format: 0 | 1, ...tracks: ReturnType<typeof trackOf>[]) =>
  new Uint8Array(
    writeMidi({ header: { format, numTracks: tracks.length, ticksPerBeat: 96 }, tracks } as Parameters<typeof writeMidi>[0]),
  );

describe('a part of a MIDI file', () => {
  it('is a channel of a track with several, its drums by name, as format 0 has them', async () => {
    const bytes = fileOf(
      0,
      trackOf(
        'Band',
        { channel: 0, keys: [72, 74, 76, 77] },
        { channel: 1, keys: [48, 50] },
        { channel: 9, keys: [36, 38, 36, 38] },
      ),
    );
    const { parts } = await readPassageFile('band.mid', bytes, 'band');
    expect(parts.map(({ name, notes }) => `${name}: ${notes}`)).toEqual([
      'Band, channel 1 and Band, channel 2, as two staves: 6',
      'Band, channel 1: 4',
      'Band, channel 2: 2',
      'Band, drums: 4',
    ]);
    const drums = await readPassageFile('band.mid', bytes, 'band', '0/9');
    expect(drums.passage.staves).toEqual([{ clef: 'percussion' }]);
    expect(sounding(drums)).toBe('0:36/1 1:38/1 2:36/1 3:38/1');
    const bass = await readPassageFile('band.mid', bytes, 'band', '0/1');
    expect(sounding(bass)).toBe('0:48/1 1:50/1');
    expect(bass.passage.staves).toEqual([{ clef: 'bass' }]);
  });

  it('may be two neighbouring tracks as two staves; without a choice the first two', async () => {
    const bytes = fileOf(
      1,
      trackOf(null, { channel: 0, keys: [84, 86] }),
      trackOf('Right', { channel: 0, keys: [72, 74] }),
      trackOf('Left', { channel: 1, keys: [48, 50] }),
    );
    const { parts } = await readPassageFile('keys.mid', bytes, 'keys');
    expect(parts.map(({ id }) => id)).toEqual(['0/0+1/0', '0/0', '1/0', '2/1', '1/0+2/1']);
    expect(parts[1]?.name).toBe('track 1');
    expect(sounding(await readPassageFile('keys.mid', bytes, 'keys', '1/0+2/1'))).toBe('0:72/1 0:48/2 1:74/1 1:50/2');
  });

  it('is taken whole, without a word, where there are two tracks and no drums', async () => {
    const bytes = fileOf(1, trackOf('Right', { channel: 0, keys: [72, 74] }), trackOf('Left', { channel: 0, keys: [48, 50] }));
    const { simplified, passage } = await readPassageFile('hands.mid', bytes, 'hands');
    expect(simplified).toEqual([]);
    expect(passage.staves).toHaveLength(2);
  });
});

const TUNES = `X:1
T:Gull step
M:2/4
L:1/8
K:C
CDEF|GABc|

X:2
T:Two together
M:2/4
L:1/8
V:1 name="High"
V:2 name="Low"
K:C
V:1
cdef|gabc'|
V:2
C2D2|E2F2|
`;

describe('a part of an ABC file', () => {
  const read = (part?: string) => readPassageFile('tunes.abc', bytesOf(TUNES), 'tunes', part);

  it('is a tune, or a voice of a tune that has several', async () => {
    const { parts, passage } = await read();
    expect(passage.title).toBe('Gull step');
    expect(parts.map(({ id, name, notes }) => `${id} ${name}: ${notes}`)).toEqual([
      '0 Gull step: 8',
      '1 Two together: 12',
      '1/0/0 Two together: High alone: 8',
      '1/1/0 Two together: Low alone: 4',
    ]);
    expect(sounding(await read('1/1/0'))).toBe('0:60/1 1:62/1 2:64/1 3:65/1');
    expect((await read('1')).passage.staves).toHaveLength(2);
  });
});
