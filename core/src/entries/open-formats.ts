/** What is taken out and read in in open formats, at `@isochron/core/open-formats`: kept apart, so that only who needs it loads it. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { type CalendarBlock, dayCalendar, weekCalendar } from '../formats/icalendar';
export { notebookText } from '../formats/notebook-text';
export { practiceCsv, type ReadLog, readTempoLog } from '../formats/practice-csv';
