import { describe, expect, it } from 'vitest';
import { readPassageFile } from './passage-files';

const note = (step: string, duration: number, inside: string) =>
  `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>${duration}</duration>${inside}</note>`;
const tuplet = (actual: number, normal: number) =>
  `<time-modification><actual-notes>${actual}</actual-notes><normal-notes>${normal}</normal-notes></time-modification>`;
const read = async (bar: string, divisions: number) => {
  const text = `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>P</part-name></score-part></part-list>
<part id="P1"><measure number="1"><attributes><divisions>${divisions}</divisions>
<time><beats>2</beats><beat-type>4</beat-type></time></attributes>${bar}</measure></part></score-partwise>`;
  const { passage } = await readPassageFile('r.musicxml', new TextEncoder().encode(text), 'r');
  return passage.notes.map(({ at, length, voice }) => `${at}:${length}${voice === 1 ? '' : `/${voice}`}`).join(' ');
};

describe('tuplets in a MusicXML file whose divisions do not hold them', () => {
  it('lie where they are meant, and so does what follows, in the other voice too', async () => {
    const septuplet = 'CDEFGAB'.split('').map((step) => note(step, 34, `<voice>1</voice><type>16th</type>${tuplet(7, 4)}`));
    const crotchet = note('C', 240, '<voice>1</voice><type>quarter</type>');
    const back = '<backup><duration>478</duration></backup>';
    const other = note('C', 480, '<voice>2</voice><type>half</type>');
    expect(await read(`${septuplet.join('')}${crotchet}${back}${other}`, 240)).toBe(
      '0:1/7 0:2/2 1/7:1/7 2/7:1/7 3/7:1/7 4/7:1/7 5/7:1/7 6/7:1/7 1:1',
    );
  });

  it('keep what is stated where it is no rounding, and where there is no tuplet', async () => {
    // Half as long as its type says: a file that means what it states.
    const short = note('C', 12, `<type>quarter</type>${tuplet(3, 2)}`);
    expect(await read(`${short}${note('D', 36, '<type>quarter</type>')}`, 24)).toBe('0:1/2 1/2:3/2');
  });

  it('count dots', async () => {
    const dotted = note('C', 5, `<type>eighth</type><dot/>${tuplet(3, 2)}`);
    const rest = note('D', 2, `<type>16th</type>${tuplet(3, 2)}`);
    const last = note('E', 3, `<type>eighth</type>${tuplet(3, 2)}`);
    expect(await read(`${dotted}${rest}${last}${note('F', 10, '<type>quarter</type>')}`, 10)).toBe('0:1/2 1/2:1/6 2/3:1/3 1:1');
  });
});
