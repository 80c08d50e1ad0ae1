import type { Settings } from '@isochron/core/schema';
import { useMemo } from 'react';
import { useSettings } from '../api/settings';

const LOCALES: Record<Settings['dates'], string> = { 'day-first': 'en-GB', 'month-first': 'en-US' };

/** Days and times as the player writes them. */
export const useDates = () => {
  const { dates } = useSettings().settings;
  return useMemo(() => {
    const by = (options: Intl.DateTimeFormatOptions) => {
      const format = new Intl.DateTimeFormat(LOCALES[dates], options);
      return (moment: string | Date) => format.format(new Date(moment));
    };
    return {
      /** "Monday 2 March" */
      weekday: by({ weekday: 'long', day: 'numeric', month: 'long' }),
      /** "Monday 2 March 2026" */
      weekdayYear: by({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }),
      /** "Mon 2" */
      weekdayShort: by({ weekday: 'short', day: 'numeric' }),
      /** "2 March 2026" */
      day: by({ day: 'numeric', month: 'long', year: 'numeric' }),
      /** "2 Mar" */
      short: by({ day: 'numeric', month: 'short' }),
      /** "2 Mar 2026" */
      shortYear: by({ day: 'numeric', month: 'short', year: 'numeric' }),
      /** "18:05" */
      time: by({ hour: '2-digit', minute: '2-digit' }),
      /** "2 Mar 2026, 18:05" */
      moment: by({ day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' }),
      /** "Monday 2 March 2026 at 18:05" */
      full: by({ dateStyle: 'full', timeStyle: 'short' }),
    };
  }, [dates]);
};
