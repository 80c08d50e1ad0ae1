import ical from 'node-ical';
import { describe, expect, it } from 'vitest';
import type { Solution } from '../schema/library';
import type { PracticeDay } from '../schema/practice';
import { dayCalendar, weekCalendar } from './icalendar';
import { notebookText } from './notebook-text';
import { practiceCsv, readTempoLog } from './practice-csv';
import { writeCsv } from './write-csv';

const eventsOf = (text: string) => Object.values(ical.sync.parseICS(text)).filter((one) => one?.type === 'VEVENT');

describe('a calendar', () => {
  it('holds a day’s blocks one after the other, with the breaks between them, as another reader finds them', () => {
    const text = dayCalendar(
      '2026-03-04',
      [
        { title: 'Warm-up; loose, at 60', minutes: 5, restMin: 0, about: 'Far under the 90 that was clean.' },
        { title: 'Tidewheel', minutes: 12, restMin: 5, about: 'Line one\nand two' },
      ],
      18 * 60 + 50,
    );
    const [first, second] = eventsOf(text) as { summary: string; description: string; start: Date; end: Date }[];
    expect(first?.summary).toBe('Warm-up; loose, at 60');
    expect(second?.description).toBe('Line one\nand two');
    const clock = (moment?: Date) =>
      moment && [moment.getFullYear(), moment.getMonth() + 1, moment.getDate(), moment.getHours(), moment.getMinutes()];
    expect(clock(first?.start)).toEqual([2026, 3, 4, 18, 50]);
    expect(clock(first?.end)).toEqual([2026, 3, 4, 18, 55]);
    expect(clock(second?.start)).toEqual([2026, 3, 4, 19, 0]);
    expect(clock(second?.end)).toEqual([2026, 3, 4, 19, 12]);
    // RFC 5545, 3.1: lines end with CRLF and are no longer than 75 octets.
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  });

  it('holds the week as events that come back', () => {
    const events = eventsOf(weekCalendar([30, 30, 0, 45, 30, 0, 0], '2026-03-04', 'Practice')) as {
      rrule: { options: { byweekday: number[] } };
      start: Date;
    }[];
    expect(events).toHaveLength(2);
    const days = events.map(({ rrule }) => rrule.options.byweekday);
    expect(days).toContainEqual([0, 1, 4]);
    expect(days).toContainEqual([3]);
    // The first one on such a day: Friday 6 March and Thursday 5 March.
    expect(events.map(({ start }) => start.getDate()).sort()).toEqual([5, 6]);
  });
});

describe('the notebook as text', () => {
  it('goes by passage and bar, without what was taken out', () => {
    const entry = (part: Partial<Solution>): Solution => ({
      id: '6ec0bd7f-11c0-43da-975e-2a8ad9ebae0b',
      passageId: 'a',
      fromBar: 1,
      toBar: 1,
      text: 'x',
      writtenAt: '2026-03-02T10:00:00.000Z',
      editedAt: '2026-03-02T10:00:00.000Z',
      removed: false,
      ...part,
    });
    const text = notebookText(
      [
        entry({ fromBar: 3, toBar: 4, text: 'less arm' }),
        entry({ text: 'breathe' }),
        entry({ removed: true, text: 'gone' }),
        entry({ passageId: 'b', text: 'edge' }),
      ],
      (id) => ({ a: 'Walk', b: 'Bells' })[id] ?? id,
    );
    expect(text).toBe(
      'Bells\n=====\n\nBar 1 (2026-03-02)\nedge\n\nWalk\n====\n\nBar 1 (2026-03-02)\nbreathe\n\nBars 3 to 4 (2026-03-02)\nless arm\n',
    );
  });
});

describe('days as CSV', () => {
  it('quote what needs it and leave unknown tempos empty', () => {
    const day: PracticeDay = {
      passageId: 'a',
      variantId: 'first',
      sectionId: 'whole',
      day: '2026-03-02',
      takes: 1,
      repetitions: 4,
      clean: 3,
      playedS: 90,
      fastS: 30,
      withoutClickS: 0,
      openBpm: null,
      openClean: null,
      bestCleanBpm: 84.5,
    };
    expect(practiceCsv([day], () => 'Bars 9, 10')).toBe(
      'day,passage,variant,section,takes,repetitions,clean,minutes,fastMinutes,firstBpm,firstClean,bestCleanBpm\r\n' +
        '2026-03-02,"Bars 9, 10",first,whole,1,4,3,1.50,0.50,,,84.5\r\n',
    );
    // RFC 4180 ends lines so; what a spreadsheet would work out is text (as OWASP has it, “CSV injection”, from memory).
    for (const title of ['=1+1', '+1', '-1', '@sum', '\t=1']) expect(practiceCsv([day], () => title)).toContain(`"'${title}"`);
    expect(writeCsv([{ off: -5.25 }])).toBe('off\r\n-5.25\r\n');
  });
});

describe('a log kept by hand', () => {
  it('is read by its heads, with what was written beside it', () => {
    const { tempos, refused } = readTempoLog('Tempo;Date;Notes\n84;02/03/2026;felt good\n"86,5";05/03/2026;\n', true);
    expect(tempos).toEqual([
      { day: '2026-03-02', bpm: 84, note: 'felt good' },
      { day: '2026-03-05', bpm: 86.5, note: '' },
    ]);
    expect(refused).toEqual([]);
  });

  it('is read without heads, in the order of days, month first where the player writes so', () => {
    expect(readTempoLog('3/5/2026\t90\n3/2/2026\t84\n', false).tempos.map(({ day }) => day)).toEqual([
      '2026-03-02',
      '2026-03-05',
    ]);
  });

  it('keeps a hundred good lines though one before them is bad, and says which', () => {
    const good = Array.from(
      { length: 100 },
      (_, k) => `2026-0${1 + Math.floor(k / 28)}-${String(1 + (k % 28)).padStart(2, '0')},${60 + k / 4}`,
    );
    const { tempos, refused } = readTempoLog(
      ['day,bpm', '2026-02-31,80', ...good, '2026-04-20,fast', '2026-04-21,9000'].join('\n'),
      true,
    );
    expect(tempos).toHaveLength(100);
    expect(refused).toEqual([
      { line: 2, why: '“2026-02-31” is not a day' },
      { line: 103, why: '“fast” is not a tempo' },
      { line: 104, why: '“9000” is not a tempo' },
    ]);
  });

  it('says what it needs where nothing can be read', () => {
    expect(() => readTempoLog('hello\nworld', true)).toThrow(/a column of days and one of tempos/);
    expect(() => readTempoLog('', true)).toThrow();
  });
});
