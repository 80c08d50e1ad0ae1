/** A length in minutes and seconds. */
export const lengthWords = (lengthS: number): string => {
  const seconds = Math.round(lengthS);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
};

/** The bar in which a beat lies, from 1, and which beat of it; bars before the first are counted up to 0. */
export const placeWords = (beat: number, beatsPerBar: number, firstBarBeat: number): string => {
  const from = beat - firstBarBeat;
  return `bar ${Math.floor(from / beatsPerBar) + 1}, beat ${(((from % beatsPerBar) + beatsPerBar) % beatsPerBar) + 1}`;
};
