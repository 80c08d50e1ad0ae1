import Papa from 'papaparse';

/** Rows as comma-separated values with their heads (RFC 4180), where no text is taken for a formula by a spreadsheet. Empty where there are none. */
export const writeCsv = (rows: readonly Record<string, string | number>[]): string =>
  rows.length === 0 ? '' : `${Papa.unparse([...rows], { newline: '\r\n', escapeFormulae: true })}\r\n`;
