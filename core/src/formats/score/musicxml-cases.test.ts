import { describe, expect, it } from 'vitest';
import { midiOf } from '../../rhythm/pitch';
import { readPassageFile } from './passage-files';

/** Quarter notes, as `C4` or `F#4`; what stands between them is taken as it is. */
const written = (music: string): string =>
  music.replace(
    /(?<=^|[\s>])([A-G])(#?)(\d)(?=$|[\s<])/g,
    (_, step, sharp, octave) =>
      `<note><pitch><step>${step}</step>${sharp ? '<alter>1</alter>' : ''}<octave>${octave}</octave></pitch><duration>1</duration><type>quarter</type></note>`,
  );
const DIRECTION = (inside: string) => `<direction><direction-type>${inside}</direction-type></direction>`;
const WORDS = (words: string) => DIRECTION(`<words>${words}</words>`);
const BACK = '<barline location="right"><repeat direction="backward"/></barline>';
const ENDING = (numbers: string, isRepeated: boolean) => [
  `<barline location="left"><ending number="${numbers}" type="start"/></barline>`,
  `<barline location="right"><ending number="${numbers}" type="stop"/>${isRepeated ? '<repeat direction="backward"/>' : ''}</barline>`,
];
const ending = (numbers: string, inside: string, isRepeated = true) => ENDING(numbers, isRepeated).join(` ${inside} `);

/** A part of three quarters a bar: bars between |, quarters and elements between spaces. */
const xmlOf = (music: string, { beats = 3, head = '<?xml version="1.0"?>' } = {}): string => {
  const time = `<attributes><divisions>1</divisions><time><beats>${beats}</beats><beat-type>4</beat-type></time></attributes>`;
  const bars = music.split('|').map((bar, k) => `<measure number="${k}">${k === 0 ? time : ''}${written(bar)}</measure>`);
  return `${head}<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>P</part-name></score-part></part-list><part id="P1">${bars.join('')}</part></score-partwise>`;
};
const readOf = (text: string) => readPassageFile('case.musicxml', new TextEncoder().encode(text), 'case');
const named = ({ passage }: Awaited<ReturnType<typeof readOf>>) =>
  passage.notes.map(({ pitch }) => (pitch ? midiOf(pitch) + (passage.transposition ?? 0) : 'x')).join(' ');

describe('the order of the bars of a MusicXML file', () => {
  it.each([
    [
      'three endings',
      `C4 C4 C4 | ${ending('1', 'D4 D4 D4')} | ${ending('2', 'E4 E4 E4')} | ${ending('3', 'F4 F4 F4', false)}`,
      'CDCECF',
    ],
    ['an ending for two times', `C4 C4 C4 | ${ending('1,2', 'D4 D4 D4')} | ${ending('3', 'E4 E4 E4', false)}`, 'CDCDCE'],
    ['endings, the last with a sign of its own', `C4 C4 C4 | ${ending('1', 'D4 D4 D4')} | ${ending('2', 'E4 E4 E4')}`, 'CDCE'],
    ['a first ending without a second bracket', `C4 C4 C4 | ${ending('1', 'D4 D4 D4')} | E4 E4 E4`, 'CDCE'],
    [
      'a repeat after endings, without a sign where it begins',
      `C4 C4 C4 | ${ending('1', 'D4 D4 D4')} | ${ending('2', 'E4 E4 E4', false)} | F4 F4 F4 ${BACK}`,
      'CDCEFF',
    ],
    [
      'from the beginning to the fine, in words',
      `C4 C4 C4 | D4 D4 D4 ${WORDS('Fine')} | E4 E4 E4 ${WORDS('D.C. al Fine')}`,
      'CDECD',
    ],
    [
      'from the sign to the coda, in words',
      `C4 C4 C4 | ${DIRECTION('<segno/>')} D4 D4 D4 ${WORDS('To Coda')} | E4 E4 E4 ${WORDS('D.S. al Coda')} | ${WORDS('Coda')} F4 F4 F4`,
      'CDEDF',
    ],
    [
      'two segnos, each from its own jump',
      `C4 C4 C4 | <sound segno="a"/> D4 D4 D4 | <sound segno="b"/> E4 E4 E4 | F4 F4 F4 <sound dalsegno="a"/> | G4 G4 G4 <sound dalsegno="b"/>`,
      'CDEFDEFGEFG',
    ],
    ['words that are no jump', `C4 C4 C4 ${WORDS('dance')} | D4 D4 D4 ${WORDS('coda-like, very fine')}`, 'CD'],
  ])('%s', async (_, music, order) => {
    const read = named(await readOf(xmlOf(music))).split(' ');
    const steps = read.filter((_midi, k) => k % 3 === 0).map((midi) => 'C_D_EF_G_A_B'[Number(midi) % 12]);
    expect(steps.join('')).toBe(order);
  });
});

describe('an upbeat', () => {
  it('is taken up by the last bar where the tune repeats, and no beat is added', async () => {
    const { passage } = await readOf(xmlOf(`G4 | C4 C4 C4 | D4 D4 ${BACK}`));
    expect(passage).toMatchObject({ pickup: '1', bars: 4, meters: [{ at: '0', count: 3, unit: 4 }] });
    expect(passage.notes.map(({ at }) => Number(at))).toEqual([-1, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  });

  it('is taken up by each ending', async () => {
    const { passage } = await readOf(xmlOf(`G4 | C4 C4 C4 | ${ending('1', 'D4 D4')} | ${ending('2', 'E4 E4', false)}`));
    expect(passage.meters).toHaveLength(1);
    expect(passage.notes.map(({ at }) => Number(at))).toEqual([-1, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  });
});

describe('what the page shows of a MusicXML file', () => {
  it('is read, and notes that it hides are not', async () => {
    const hidden = written('D4').replace('<note>', '<note print-object="no">');
    const read = await readOf(xmlOf(`C4 ${hidden} E4`));
    expect(read.passage.notes.map(({ at }) => at)).toEqual(['0', '2']);
    expect(read.simplified).toEqual(['Notes that the page does not show are left out.']);
    await expect(readOf(xmlOf(hidden))).rejects.toThrow('There are no notes in this file.');
  });

  it('is played where a sign repeats bars', async () => {
    const sign = (type: string, bars = 1) =>
      `<attributes><measure-style><measure-repeat type="${type}">${bars}</measure-repeat></measure-style></attributes>`;
    expect(named(await readOf(xmlOf(`C4 D4 E4 | ${sign('start')} | | ${sign('stop')} F4 F4 F4`)))).toBe(
      '60 62 64 60 62 64 60 62 64 65 65 65',
    );
    expect(named(await readOf(xmlOf(`C4 C4 C4 | D4 D4 D4 | ${sign('start', 2)} |`)))).toBe(
      '60 60 60 62 62 62 60 60 60 62 62 62',
    );
    // Without a sign a bar of which nothing is written is silent.
    expect(named(await readOf(xmlOf('C4 D4 E4 | | F4 F4 F4')))).toBe('60 62 64 65 65 65');
  });

  it('sounds as before where the instrument changes its transposition', async () => {
    const instrument = (chromatic: number, fifths: number) =>
      `<attributes><key><fifths>${fifths}</fifths></key><transpose><chromatic>${chromatic}</chromatic></transpose></attributes>`;
    // Clarinets in B flat and in A, in C major: a tone and a minor third lower than written (common practice).
    const read = await readOf(xmlOf(`${instrument(-2, 2)} D4 E4 F#4 | ${instrument(-3, -3)} F4 G4 C5`));
    expect(named(read)).toBe('60 62 64 62 64 69');
    expect(read.passage).toMatchObject({ transposition: -2, keys: [{ at: '0', fifths: 2 }] });
    expect(read.passage.notes.map(({ pitch }) => `${pitch?.step}${pitch?.alter}`).join(' ')).toBe('D0 E0 F1 E0 F1 B0');
    expect(read.simplified).toHaveLength(1);
    expect((await readOf(xmlOf(`${instrument(-2, 2)} D4 E4 F#4 | G4 G4 G4`))).simplified).toEqual([]);
  });

  it('holds a tie whose end is spelled otherwise', async () => {
    const tied = written('F#4').replace('<type>', '<tie type="start"/><type>');
    const flat = '<note><pitch><step>G</step><alter>-1</alter><octave>4</octave></pitch><duration>1</duration></note>';
    const { passage, simplified } = await readOf(xmlOf(`C4 D4 ${tied} | ${flat} D4 D4`));
    expect(simplified).toEqual([]);
    expect(passage.notes[2]?.tie).toBe(true);
  });

  it('holds a tie into another voice, and says where there is no room for it', async () => {
    const inVoice = (note: string, voice: number, tie = false) =>
      written(note).replace('<type>', `${tie ? '<tie type="start"/>' : ''}<voice>${voice}</voice><type>`);
    const back = '<backup><duration>1</duration></backup>';
    const begin = `C4 D4 ${inVoice('E4', 1, true)} |`;
    const free = await readOf(xmlOf(`${begin} ${inVoice('E4', 2)} D4 C4`));
    expect(free.simplified).toEqual([]);
    expect(free.passage.notes.slice(2, 4)).toMatchObject([
      { voice: 1, tie: true },
      { at: '3', voice: 1 },
    ]);
    const taken = await readOf(xmlOf(`${begin} ${inVoice('F4', 1)} ${back} ${inVoice('E4', 2)} D4 C4`));
    expect(taken.simplified).toEqual(['A tie that leads to no note was left out.']);
    expect(taken.passage.notes).toHaveLength(7);
  });

  it.each([
    ['ca. 84', 84],
    ['84,5', 84.5],
    ['72-80', 72],
    ['fast', 100],
  ])('is a tempo where its words have one: %s', async (words, bpm) => {
    const metronome = `<metronome><beat-unit>quarter</beat-unit><per-minute>${words}</per-minute></metronome>`;
    expect((await readOf(xmlOf(`${DIRECTION(metronome)} C4 C4 C4`))).passage.goalBpm).toBe(bpm);
  });
});

describe('a MusicXML file without time signature', () => {
  const unsigned = (music: string) => xmlOf(music).replace(/<time>.*?<\/time>/, '');
  it.each([
    ['as its bars are long', 'C4 D4 | E4 F4 | G4 A4 | B4 C4', 2, [1, 2, 3, 4]],
    ['as most of them are, where one is not full', 'C4 | E4 F4 G4 | G4 A4 B4 | E4 C4 D4', 3, [1, 2, 3]],
    ['of silence as well', 'C4 D4 | | G4 A4', 2, [1, 2, 3]],
  ])('is counted %s', async (_, music, count, bars) => {
    const { passage } = await readOf(unsigned(music));
    expect(passage.meters).toEqual([{ at: '0', count, unit: 4 }]);
    expect(passage.bars).toBe(bars.length);
  });

  it('that has one keeps it', async () => {
    expect((await readOf(xmlOf('C4 D4 E4 | C4 D4 | C4', { beats: 3 }))).passage.meters[0]?.count).toBe(3);
  });
});

describe('the letters of a MusicXML file', () => {
  const text = (encoding: string) =>
    xmlOf('C4 C4 C4', { head: `<?xml version="1.0" encoding="${encoding}"?>` }).replace(
      '<part-list>',
      '<movement-title>Gymnopé</movement-title><part-list>',
    );
  const wide = (of: string, isBig: boolean, mark: boolean) =>
    new Uint8Array(
      [...(mark ? '\ufeff' : ''), ...of].flatMap((letter) => {
        const code = letter.charCodeAt(0);
        return isBig ? [code >> 8, code & 255] : [code & 255, code >> 8];
      }),
    );
  it.each([
    ['Latin 1', Uint8Array.from(text('ISO-8859-1'), (letter) => letter.charCodeAt(0))],
    ['two bytes, low first, with its mark', wide(text('UTF-16'), false, true)],
    ['two bytes, high first, without a mark', wide(text('UTF-16'), true, false)],
    ['UTF-8 that says it has two bytes', new TextEncoder().encode(text('UTF-16'))],
    ['Latin 1 that says it is UTF-8', Uint8Array.from(text('UTF-8'), (letter) => letter.charCodeAt(0))],
    ['an encoding that nobody knows', new TextEncoder().encode(text('x-nobody'))],
  ])('are told by its mark, its declaration, or what they are: %s', async (_, bytes) => {
    expect((await readPassageFile('case.xml', bytes, 'case')).passage.title).toBe('Gymnopé');
  });
});
