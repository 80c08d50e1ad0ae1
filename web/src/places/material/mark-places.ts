/** A note's place for marks: its staff, and its event. */
export interface MarkPlace {
  staff: number;
  event: number;
}

const placesOn = (staff: number): HTMLElement[] => [...document.querySelectorAll<HTMLElement>(`[data-mark^="${staff}/"]`)];

const placeOf = ({ dataset }: HTMLElement): MarkPlace | null => {
  const [staff, event] = (dataset.mark ?? '').split('/').map(Number);
  return staff === undefined || event === undefined ? null : { staff, event };
};

/** How the place of a note is found in the page. */
export const markSelector = ({ staff, event }: MarkPlace): string => `[data-mark="${staff}/${event}"]`;

/** The place that has the focus; null where none has. */
export const focusedPlace = (): MarkPlace | null =>
  document.activeElement instanceof HTMLElement ? placeOf(document.activeElement) : null;

/** A note that is gone leaves the focus to the next one, or to the last. */
export const focusFrom = ({ staff, event }: MarkPlace): void => {
  const left = placesOn(staff);
  (left.find((place) => (placeOf(place)?.event ?? 0) >= event) ?? left.at(-1))?.focus();
};

/** The focus goes to the note after one; from the last one it stays. */
export const focusAfter = ({ staff, event }: MarkPlace): void => {
  placesOn(staff)
    .find((place) => (placeOf(place)?.event ?? 0) > event)
    ?.focus();
};
