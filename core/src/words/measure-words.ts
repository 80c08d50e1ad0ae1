/** What a measure says, for a musician, where it stands. Its formula is in docs/measures.md. */
export const MEASURE_WORDS = {
  Accuracy: 'How many of the notes lie inside the window around their places. The window is the pale band of the strip.',
  Spread: 'How far notes scatter about their places. A little early or late all the time does not count; scatter does.',
  Unevenness:
    'How far the steps from note to note differ from their written lengths: 5 % is a step of 100 ms that is 5 ms too long or too short.',
  Placement: 'Whether the notes lie ahead of the click or behind it on average. Steady placement is style, and fails nothing.',
  Drift: 'Whether it grew slower (+) or faster (−) from beginning to end, as a share of the tempo.',
  'Missed, extra': 'Notes that were expected and not heard, and notes that nobody asked for.',
  'The range in brackets': 'Few notes tell little: the true figure lies in this range with 95 %.',
} as const;
