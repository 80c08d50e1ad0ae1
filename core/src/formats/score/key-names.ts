/** Major keys from seven flats to seven sharps. */
const MAJOR = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#'] as const;
const MINOR = ['Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#', 'G#', 'D#', 'A#'] as const;

/** The name of the major key of a signature: sharps positive, flats negative. */
export const majorKey = (fifths: number): string => MAJOR[fifths + 7] ?? 'C';

/** The minor key that has a signature. */
export const minorKey = (fifths: number): string => MINOR[fifths + 7] ?? 'A';

/** The signature of a key named like `Eb` or `F# minor` (or `F#m`); null where there is none such. */
export const fifthsOfKey = (name: string): number | null => {
  const [, tonic = '', mode = ''] = /^([A-G][#b]?)\s*(m|min|minor|major|maj)?$/.exec(name.trim()) ?? [];
  const isMinor = /^m(in|inor)?$/.test(mode);
  const place = (isMinor ? (MINOR as readonly string[]) : (MAJOR as readonly string[])).indexOf(tonic);
  return place < 0 ? null : place - 7;
};
